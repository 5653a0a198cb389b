package rig

import "kolvan/core/units"

// Ledger is what a rig cost beyond the prices of its parts, and what it is held against.
// All money is in the currency of the brief, unless a line says otherwise.
type Ledger struct {
	Lines  []LedgerLine      `json:"lines,omitzero" name:"lines" doc:"More about a part of the rig, or a line of its own: paste, postage, a tool, hours."`
	Others []Alternative     `json:"alternatives,omitzero" name:"held against" doc:"What could be had in its place."`
	Rate   Fact[units.Money] `json:"hour_rate,omitzero" is:"0..100000" else:"hours are not counted" name:"an hour is worth" doc:"For hours of work, where they are to be counted."`
	Day    []DayState        `json:"day,omitzero" name:"a day" doc:"Hours a day in each state, for a year of energy."`
	Rates  []ExchangeRate    `json:"exchange,omitzero" name:"exchange" doc:"Of lines in another currency, as typed: never fetched."`
	Sale   Sale              `json:"sale,omitzero" name:"if it were sold" doc:"What would be left of a sale."`
}

// LedgerLine is one line of the ledger.
type LedgerLine struct {
	Name     string            `json:"name" name:"what" doc:"What the line is called."`
	Part     string            `json:"part,omitzero" name:"is the part" doc:"By its name; a line of its own where nothing has that name any more."`
	Kind     Fact[LineKind]    `json:"kind,omitzero" else:"a part" name:"sort" doc:"What it is."`
	Price    Fact[units.Money] `json:"price,omitzero" is:"0..100000000" else:"the part's own" name:"price" doc:"With its tolerance where it is a range."`
	Brought  Fact[units.Money] `json:"brought,omitzero" is:"0..100000000" else:"its price" name:"it brought" when:"state=sold" doc:"What it was sold for, beside the price that was paid."`
	Currency string            `json:"currency,omitzero" name:"in the currency" doc:"Where it is not the brief's: with a rate below."`
	TaxOn    Fact[units.Share] `json:"tax_on_top,omitzero" is:"0..1" else:"in the price" name:"tax on top" doc:"The rate that comes on top of the price."`
	Postage  Fact[units.Money] `json:"postage,omitzero" is:"0..100000000" else:"none" name:"postage" doc:"What it cost to come."`
	Hours    Fact[float64]     `json:"hours,omitzero" is:"0..100000" name:"hours" when:"kind=hours" doc:"Of work, with a tolerance where it is a range."`
	Lot      Fact[int]         `json:"lot_units,omitzero" is:"1..10000" else:"one" name:"usable units of the lot" doc:"A lot's price is shared over its usable units."`
	Used     Fact[int]         `json:"lot_used,omitzero" is:"0..10000" else:"one" name:"of them used here" doc:"Units of the lot that this rig takes."`
	State    Fact[LineState]   `json:"state,omitzero" else:"as the part says" name:"state" doc:"Owned before, to buy, ordered, paid, returned, sold."`
	Need     Fact[LineNeed]    `json:"need,omitzero" else:"by its sort" name:"why" doc:"Forced by the route, chosen, or spared: sold or used again."`
	Outside  Fact[bool]        `json:"outside,omitzero" else:"no" name:"not part of the rig" doc:"A tool that stays, a test card that goes back."`
	With     string            `json:"comes_with,omitzero" name:"comes with" doc:"The part of the rig it came with: it costs nothing, and is never asked for."`
	From     string            `json:"from,omitzero" name:"from" doc:"Where it came from."`
	When     string            `json:"when,omitzero" name:"date" doc:"Of the order, YYYY-MM-DD."`
	ReturnBy string            `json:"return_by,omitzero" name:"can go back until" doc:"YYYY-MM-DD."`
	Variant  string            `json:"variant,omitzero" name:"exact variant" doc:"Host series of a riser, bracket in the box, plug size, length."`
	Not      string            `json:"not_to_buy,omitzero" name:"looks alike, do not buy" doc:"What is taken for it by mistake."`
}

// Alternative is what could be had in place of the rig.
type Alternative struct {
	Name   string            `json:"name" name:"what" doc:"A whole machine, a card in another host, rented hours, doing nothing."`
	Price  Fact[units.Money] `json:"price,omitzero" is:"0..100000000" name:"price" doc:"With its tolerance where it is a range."`
	Hourly Fact[units.Money] `json:"hourly,omitzero" is:"0..100000" else:"none" name:"each hour" doc:"For what is rented."`
	Hours  Fact[float64]     `json:"hours,omitzero" is:"0..1000000" name:"hours wanted" doc:"For what is rented."`
	Gain   Fact[float64]     `json:"gain,omitzero" is:"0..100000" name:"times as fast as today" doc:"Its own gain over what the host does today, with its tolerance."`
	Resale Fact[units.Money] `json:"resale,omitzero" is:"0..100000000" else:"nothing" name:"worth later" doc:"What it would bring afterwards."`
}

// DayState is one state a rig spends hours of a day in.
type DayState struct {
	Name  string           `json:"name" name:"state" doc:"At work, idle, off but plugged in."`
	Hours Fact[float64]    `json:"hours,omitzero" is:"0..24" name:"hours a day" doc:"On the average of a year."`
	Wall  Fact[units.Watt] `json:"wall_w,omitzero" is:"0..10000" name:"watts at the wall" doc:"Of the whole rig, in this state."`
}

// ExchangeRate is what one unit of a currency is worth in the brief's.
type ExchangeRate struct {
	Currency string        `json:"currency" name:"currency" doc:"As it is written in the lines."`
	Rate     Fact[float64] `json:"rate,omitzero" is:"0..1000000" name:"is worth" doc:"In the brief's currency, as typed."`
}

// Sale is what a sale would be made on.
type Sale struct {
	Price   Fact[units.Money] `json:"price,omitzero" is:"0..100000000" else:"it is not sold" name:"selling price" doc:"With its tolerance where it is a range."`
	Fee     Fact[units.Share] `json:"fee,omitzero" is:"0..1" else:"none" name:"fee" doc:"The share the market place takes."`
	FeeOf   Fact[FeeBase]     `json:"fee_of,omitzero" else:"of the price" name:"the fee is" doc:"Of the price alone, with postage, or with tax."`
	Fixed   Fact[units.Money] `json:"fixed_fee,omitzero" is:"0..100000" else:"none" name:"fixed fee" doc:"For each sale."`
	Postage Fact[units.Money] `json:"postage,omitzero" is:"0..100000" else:"none" name:"postage" doc:"To the buyer."`
	Paid    Fact[bool]        `json:"seller_pays_postage,omitzero" else:"yes" name:"the seller pays it" doc:"Who pays the postage."`
	Reserve Fact[units.Share] `json:"reserve,omitzero" is:"0..1" else:"none" name:"kept back" doc:"A share for returns and for the warranty that is promised."`
	Tax     Fact[units.Share] `json:"margin_tax,omitzero" is:"0..1" else:"none" name:"tax" doc:"Its rate: on the margin, or in the fee's base."`
	Taxed   Fact[bool]        `json:"margin_taxed,omitzero" else:"no" name:"the margin is taxed" doc:"For who sells as a trade. Ask an adviser, not Kolvan."`
	Cost    Fact[units.Money] `json:"own_cost,omitzero" is:"0..100000000" else:"all but what was owned before" name:"own cost" doc:"What it cost the seller."`
}
