package rig

// Protection is what a brief's stance says of an alteration.
type Protection int

// What a stance may say.
const (
	MayAlter    Protection = iota
	AsksStance             // what may be altered is not told
	AsksTouches            // what is altered is not told
	Protected
)

// Protects tells whether the brief lets an alteration be made.
func (b *Brief) Protects(a *Alteration) Protection {
	if Is(a.Permanent, false) || Is(a.Touches, TouchesAdapt) {
		return MayAlter
	}
	stance, known := b.Stance.Get()
	switch {
	case !known:
		return AsksStance
	case stance == CutFreely:
		return MayAlter
	case !a.Touches.Known && stance != NothingPermanent:
		return AsksTouches
	case stance == SpareCover && a.Touches.Value == TouchesSpare:
		return MayAlter
	}
	return Protected
}
