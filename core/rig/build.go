package rig

// Build is how the evening of the build goes.
type Build struct {
	AtHand   []string   `json:"at_hand,omitzero" name:"at hand" doc:"Tools and consumables that lie ready, as the steps call them."`
	TestCard Fact[bool] `json:"test_card,omitzero" else:"no" name:"a cheap test card is at hand" doc:"One that shares the good card's start mode and driver support: else it misleads."`
	Order    []string   `json:"order,omitzero" set:"never" name:"own order" doc:"Steps by name, in the order a person wants; the others follow where they belong."`
	Needs    []Need     `json:"needs,omitzero" name:"also needed" doc:"What must come before what, beside what Kolvan knows."`
	Done     []DoneStep `json:"done,omitzero" set:"never" name:"done" doc:"The steps that are done."`
	Tries    []Try      `json:"tries,omitzero" set:"never" name:"tries" doc:"What was tried, and what happened."`
}

// Need is a precondition that a person adds.
type Need struct {
	Step  string `json:"step" name:"step" doc:"By its name."`
	After string `json:"after" name:"comes after" doc:"By its name."`
}

// DoneStep is a step that is done.
type DoneStep struct {
	Step    string        `json:"step" name:"step" doc:"By its name."`
	When    string        `json:"when,omitzero" name:"when" doc:"RFC 3339."`
	Minutes Fact[float64] `json:"minutes,omitzero" is:"0..10000" name:"took" doc:"Minutes it took."`
	Line    string        `json:"line,omitzero" name:"note" doc:"What is worth remembering."`
}

// Try is one thing that was tried on the way to a fault.
type Try struct {
	Test     string        `json:"test,omitzero" name:"test" doc:"By its name; empty for a remark, which counts for nothing."`
	Outcome  string        `json:"outcome,omitzero" name:"outcome" doc:"By its name."`
	When     string        `json:"when,omitzero" name:"when" doc:"RFC 3339."`
	Minutes  Fact[float64] `json:"minutes,omitzero" is:"0..10000" name:"took" doc:"Minutes it took."`
	Together Fact[bool]    `json:"two_changes,omitzero" else:"no" name:"more than one thing was changed" doc:"Two changes at once part nothing."`
	At       string        `json:"at,omitzero" name:"at that moment" doc:"For what comes and goes: what happened at that moment."`
	Remark   string        `json:"remark,omitzero" name:"remark" doc:"In a person's words."`
}
