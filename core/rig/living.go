package rig

import "kolvan/core/units"

// Living is where a rig will stand, and with whom: asked before anything is ordered.
type Living struct {
	Place   string             `json:"place,omitzero" name:"it will stand" doc:"In plain words: on the desk, in the cupboard, in the shed."`
	Air     Fact[Surroundings] `json:"air,omitzero" name:"its air there" doc:"What warm air comes back to it."`
	Harsh   Fact[bool]         `json:"harsh,omitzero" name:"dust, damp or small hands" doc:"An open card or bare contacts do not belong there."`
	Noise   Fact[float64]      `json:"noise_db,omitzero" is:"0..150" name:"noise that is allowed" doc:"At the seat, dB."`
	Sleeps  Fact[bool]         `json:"somebody_sleeps,omitzero" name:"somebody sleeps there" doc:"While it runs."`
	Strips  []Strip            `json:"strips,omitzero" name:"outlet strips and wall sockets" doc:"What the mains plugs go into, each with what it carries."`
	Plugs   Fact[int]          `json:"mains_plugs,omitzero" is:"0..100" name:"mains plugs free there" doc:"The host's own among them."`
	Carried Fact[bool]         `json:"carried,omitzero" name:"it is carried about" doc:"Packed and set up again; else it stays where it stands."`
	SetUp   Fact[float64]      `json:"set_up_most_min,omitzero" is:"0..1000" name:"minutes to set it up, at most" when:"carried=yes" doc:"From the closed bag to the picture."`
	Agree   []Agreement        `json:"agree,omitzero" name:"who must agree" doc:"Who lives or works there, or whose host it is."`
}

// Strip is an outlet strip or a wall socket that mains plugs go into.
type Strip struct {
	Name string           `json:"name" name:"name" doc:"The strip's name."`
	Most Fact[units.Watt] `json:"most_w,omitzero" is:"0..20000" name:"carries at most" doc:"As printed on it, W."`
	Wall Fact[bool]       `json:"wall_socket,omitzero" name:"it is a wall socket" doc:"In the wall itself, and no strip."`
	On   string           `json:"on,omitzero" name:"plugged into" doc:"Another strip, or a wall socket, by its name."`
}

// Agreement is one who must agree.
type Agreement struct {
	Name   string     `json:"who" name:"who" doc:"By what they are: the flatmate, the club, the landlord."`
	Agreed Fact[bool] `json:"agreed,omitzero" name:"agreed" doc:"Asked, and said yes."`
}

// DiaryLine is one line of a rig's diary. Now and then it answers five plain questions.
type DiaryLine struct {
	When      string     `json:"when,omitzero" name:"when" doc:"RFC 3339."`
	Text      string     `json:"text,omitzero" name:"what happened" doc:"In plain words."`
	Plugs     Fact[int]  `json:"mains_plugs,omitzero" is:"0..100" name:"mains plugs it takes" doc:"As it stands."`
	Noise     string     `json:"noise,omitzero" name:"noise in the room" doc:"In plain words, or in dB."`
	Stands    string     `json:"stands,omitzero" name:"it stands" doc:"Where, by now."`
	Household string     `json:"household,omitzero" name:"the household says" doc:"In their words, without names."`
	Again     Fact[bool] `json:"build_again,omitzero" name:"would you build it again" doc:"By now."`
	Apart     Fact[bool] `json:"taken_apart,omitzero" else:"no" name:"it was taken apart" doc:"That day; the line says why."`
}
