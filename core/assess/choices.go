package assess

import (
	"cmp"
	"context"
	"slices"

	"kolvan/core/finding"
	"kolvan/core/power"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// A Choice is a supply that could stand in the place of the one that feeds the
// card, or a card that could hang on that supply, tried as a change is.
type Choice struct {
	Name   string
	Size   units.Watt     // a supply's rating, a card's board power
	Owned  bool           // it lies in one's bins
	Share  float64        // of the supply's rating, sustained at the most
	By     power.Allowed  // what each policy says of it
	Band   power.Band     // the shortest spikes: what they take, and what the supply rides out
	Change finding.Change // puts it there
	Level  finding.Level  // the worst that then speaks against the feeds, or comes in elsewhere
	Says   string         // that finding; empty where nothing at risk or worse does
}

// Free reports that nothing speaks against it.
func (c *Choice) Free() bool { return c.Says == "" }

// chooser tries choices against a plan whose card a supply with a known load feeds.
type chooser struct {
	rig    *rig.Rig
	supply int
	before levels
	ref    *reference.Tables
	list   []Choice
	hangs  func(*finding.Finding) bool // a finding that hangs on what is chosen
	// refuses says that what brings a finding is no choice.
	refuses func(*finding.Finding) bool
}

// newChooser is nil while there is no such supply.
func newChooser(report *Report, r *rig.Rig, ref *reference.Tables) *chooser {
	i := report.Power.CardSupply()
	if i < 0 || !report.Power.Supplies[i].Load.Known() {
		return nil
	}
	return &chooser{rig: r, supply: i, before: levelsOf(report.Findings), ref: ref,
		hangs:   func(f *finding.Finding) bool { return f.Row().Station == finding.Power },
		refuses: func(*finding.Finding) bool { return false }}
}

// ofTheSupply are the rules that another supply may answer otherwise.
var ofTheSupply = []string{
	power.RuleTotal, power.RuleRail, power.RuleHeadroom, power.RuleSpike, power.RuleGroup, power.RuleTurnOn,
	power.RuleOrder, power.RuleHostBrick, power.RuleUnfed, power.RuleContract, power.RuleBarrel, power.RuleVoltage,
}

// SupplyChoices tries every supply of the bins, those that carry the plan first, of
// them one's own, and of those the smallest; at most that many. It is nil while no
// supply with a load that is known feeds the card.
func SupplyChoices(ctx context.Context, report *Report, r *rig.Rig, ref *reference.Tables, bins *Bins, most int) ([]Choice, error) {
	ch := newChooser(report, r, ref)
	if ch == nil {
		return nil, nil
	}
	ch.hangs = func(f *finding.Finding) bool { return slices.Contains(ofTheSupply, f.Rule) }
	for _, s := range bins.Supplies {
		c, goes := exchanged(r, ref, ch.supply, s)
		if !goes || !s.Rating.Known {
			continue
		}
		says := "Use supply " + c.Supplies[ch.supply].Name + " for " + r.Supplies[ch.supply].Name
		if err := ch.try(ctx, c, Choice{Name: s.Name, Size: s.Rating.Value, Owned: rig.Is(s.Owned, true)}, says); err != nil {
			return nil, err
		}
	}
	return ch.best(most, func(a, b units.Watt) int { return cmp.Compare(a, b) }), nil
}

// CardChoices tries every other card of the bins, with the leads its plugs want as
// far as free outlets have them; those that the plan carries stand first, of
// them one's own, and of those the largest. A card that stays without a feed, or that adds
// a danger to those there are, is none. It is nil where SupplyChoices is.
func CardChoices(ctx context.Context, report *Report, r *rig.Rig, ref *reference.Tables, bins *Bins, most int) ([]Choice, error) {
	ch := newChooser(report, r, ref)
	if ch == nil {
		return nil, nil
	}
	ch.refuses = func(f *finding.Finding) bool {
		return f.Level == finding.Danger && ch.isNew(f) || f.Rule == power.RuleUnfed && f.Level == finding.Blocked && rig.Within(f.Where, "/card")
	}
	for _, card := range bins.Cards {
		if card.Name == r.Card.Name || !card.Power.Known {
			continue
		}
		c := feedPlugs(WithCard(r, card), ref)
		says := "Use card " + card.Name + givesUp(&r.Card, &card)
		if err := ch.try(ctx, c, Choice{Name: card.Name, Size: card.Power.Value, Owned: rig.Is(card.Owned, true)}, says); err != nil {
			return nil, err
		}
	}
	return ch.best(most, func(a, b units.Watt) int { return cmp.Compare(b, a) }), nil
}

func (ch *chooser) try(ctx context.Context, changed *rig.Rig, choice Choice, says string) error {
	if err := ctx.Err(); err != nil || !changed.Holds() {
		return err
	}
	out := finding.List{}
	after := new(desk).judge(changed, ch.ref, &out)
	for i := range out.Findings {
		f := &out.Findings[i]
		if ch.refuses(f) {
			return nil
		}
		if ch.counts(f) && (choice.Free() || f.Level > choice.Level) {
			choice.Level, choice.Says = f.Level, f.Says
		}
	}
	choice.Share, _ = after.Power.Supplies[ch.supply].Share()
	choice.Band, choice.By = after.Power.Bands(ch.supply)[0], after.Power.Allows(ch.supply)
	patch, err := rig.PatchOf("", ch.rig, changed)
	choice.Change = finding.Change{Change: says, Patch: patch}
	ch.list = append(ch.list, choice)
	return err
}

// counts a finding against a choice: always where it hangs on what is chosen, else
// where the choice brings it in.
func (ch *chooser) counts(f *finding.Finding) bool {
	if f.Level == finding.Note {
		return false
	}
	return ch.isNew(f) || ch.hangs(f)
}

func (ch *chooser) isNew(f *finding.Finding) bool {
	_, isNew := ch.before.worstNew([]finding.Finding{*f})
	return isNew
}

func (ch *chooser) best(most int, bySize func(a, b units.Watt) int) []Choice {
	slices.SortStableFunc(ch.list, func(a, b Choice) int {
		return cmp.Or(cmp.Compare(a.Level, b.Level), cmp.Compare(a.buying(), b.buying()), bySize(a.Size, b.Size))
	})
	return ch.list[:min(len(ch.list), most)]
}

// buying is nothing for one's own part, so that it stands before what costs money.
func (c *Choice) buying() int {
	if c.Owned {
		return 0
	}
	return 1
}
