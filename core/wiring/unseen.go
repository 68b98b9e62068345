package wiring

import "vividperch/core/inquiry"

// UnseenQuestions about a computer that does not see a board, the cheapest to look at first.
var UnseenQuestions = []inquiry.Question{
	{ID: "reach", Words: "What is it that you cannot reach?", How: "Look at what the program that you use is waiting for.", Answers: []inquiry.Choice{
		{ID: "board", Words: "the flight controller"}, {ID: "speed", Words: "a speed controller, through the flight controller"},
	}},
	{ID: "light", Words: "Plug the cable in, pack out. Does any light on the board come on?", How: "Propellers off. A light that blinks counts too.", Answers: []inquiry.Choice{
		{ID: "lit", Words: "yes"}, {ID: "none", Words: "none"},
	}},
	{ID: "listed", Words: "What does the computer's list of devices do as you plug it in?", How: "Have the list open, pull the cable, plug it in again.", Answers: []inquiry.Choice{
		{ID: "port", Words: "a serial port comes"}, {ID: "marked", Words: "something unknown comes, with a warning"}, {ID: "boot", Words: "a bootloader comes, no serial port"},
		{ID: "flickers", Words: "it comes and goes"}, {ID: "nothing", Words: "nothing new"},
	}},
	{ID: "cable", Words: "Does it appear with another cable, one that you have carried data over?", How: "Many cables only charge.", Answers: []inquiry.Choice{
		{ID: "no", Words: "no"}, {ID: "yes", Words: "yes, it does"},
	}},
	{ID: "socket", Words: "Does it appear in another socket of the computer itself, without a hub or a front panel?", How: "At the back of it, or on its other side.", Answers: []inquiry.Choice{
		{ID: "no", Words: "no"}, {ID: "yes", Words: "yes, it does"},
	}},
	{ID: "held", Words: "Is anything else open that talks to boards?", How: "Another window of this page, a terminal, a program that sets boards up.", Answers: []inquiry.Choice{
		{ID: "no", Words: "no"}, {ID: "yes", Words: "there was, and closing it helped"},
	}},
	{ID: "chosen", Words: "Is the port that you choose the one that comes and goes with the cable?", How: "Computers have ports of their own, and radios one more.", Answers: []inquiry.Choice{
		{ID: "same", Words: "yes"}, {ID: "other", Words: "no, that is another one"},
	}},
	{ID: "granted", Words: "Does the browser show that port when it asks which one?", How: "It lists only what the computer lets it have.", Answers: []inquiry.Choice{
		{ID: "yes", Words: "yes"}, {ID: "no", Words: "no"},
	}},
	{ID: "says", Words: "What comes once the port is open?", How: "As this page or a terminal shows it.", Answers: []inquiry.Choice{
		{ID: "sense", Words: "text that makes sense"}, {ID: "rubbish", Words: "rubbish"}, {ID: "silence", Words: "nothing at all"},
	}},
	{ID: "button", Words: "Was its boot button down, or were its boot pads bridged, as the cable went in?", How: "Plug it in once more, hands off.", Answers: []inquiry.Choice{
		{ID: "no", Words: "no"}, {ID: "yes", Words: "yes; with hands off the port comes"},
	}},
	{ID: "wait", Words: "Does it appear when you wait a quarter of a minute?", How: "Some boards look for their devices before they talk.", Answers: []inquiry.Choice{
		{ID: "no", Words: "no"}, {ID: "yes", Words: "yes, it does"},
	}},
	{ID: "bare", Words: "Does it appear with everything unplugged from the port that shares its pins with USB?", How: "Often the first one: receiver, satellite receiver or video unit there.", Answers: []inquiry.Choice{
		{ID: "no", Words: "no"}, {ID: "yes", Words: "yes, it does"},
	}},
	{ID: "pack", Words: "Does it appear with the pack in as well?", How: "Propellers off; watch for smoke, and pull the pack at once if anything gets hot.", Answers: []inquiry.Choice{
		{ID: "no", Words: "no"}, {ID: "yes", Words: "yes, it does"},
	}},
	{ID: "another", Words: "Does another board appear on the same cable and socket?", How: "Any that you know to be sound.", Answers: []inquiry.Choice{
		{ID: "yes", Words: "yes"}, {ID: "no", Words: "no"},
	}},
}

// answers that a cause gives to one question.
func only(answers ...string) []string { return answers }

// UnseenCauses of a board that a computer does not see.
var UnseenCauses = []inquiry.Cause{
	{ID: "charges", Words: "The cable only charges: it has no wires for data", Remedy: "Take one that carries data, and throw this one away.",
		Shows: map[inquiry.QuestionID][]string{"listed": only("nothing"), "cable": only("yes"), "another": only("no")}},
	{ID: "socket", Words: "The hub or the socket does not hold the connection", Remedy: "Plug it into the computer itself, with a short cable.",
		Shows: map[inquiry.QuestionID][]string{"listed": only("flickers", "nothing"), "socket": only("yes"), "another": only("no")}},
	{ID: "noDriver", Words: "The computer does not know what to do with its chip", Remedy: "Have the computer install what belongs to that chip; the list of devices names it.",
		Shows: map[inquiry.QuestionID][]string{"listed": only("marked")}, Open: []inquiry.QuestionID{"another"}},
	{ID: "button", Words: "It was started into its bootloader by its button", Remedy: "Hands off the button, cable out, cable in.",
		Shows: map[inquiry.QuestionID][]string{"listed": only("boot"), "button": only("yes")}},
	{ID: "noFirmware", Words: "It waits in its bootloader: its firmware is gone, or was never whole", Remedy: "Flash it, at Firmware: what was saved of it can be put back.",
		Shows: map[inquiry.QuestionID][]string{"listed": only("boot")}},
	{ID: "noPower", Words: "USB alone does not feed this board", Remedy: "Pack in as well, propellers off; or find its regulator's input at Wiring.",
		Shows: map[inquiry.QuestionID][]string{"light": only("none"), "listed": only("nothing"), "pack": only("yes")}},
	{ID: "dead", Words: "Its USB socket is torn off, or the board is dead", Remedy: "Look at the socket's joints under magnification; else another board.",
		Shows: map[inquiry.QuestionID][]string{"light": only("none"), "listed": only("nothing")}},
	{ID: "slow", Words: "It talks only after it has looked for its devices", Remedy: "Wait a quarter of a minute after plugging in; nothing is wrong.",
		Shows: map[inquiry.QuestionID][]string{"listed": only("nothing", "flickers"), "wait": only("yes")}},
	{ID: "shared", Words: "A device on the port that shares its pins with USB talks it down", Remedy: "Unplug that device while you set the board up, or move it to another port at Wiring.",
		Shows: map[inquiry.QuestionID][]string{"listed": only("nothing", "flickers"), "bare": only("yes")}},
	{ID: "held", Words: "Another program holds the port", Remedy: "Close it, and let this page open the port again.",
		Shows: map[inquiry.QuestionID][]string{"held": only("yes"), "says": only("silence")}},
	{ID: "otherPort", Words: "Another port was chosen than the board's", Remedy: "Choose the one that comes and goes with the cable.",
		Shows: map[inquiry.QuestionID][]string{"chosen": only("other"), "says": only("silence", "rubbish")}},
	{ID: "notGranted", Words: "The browser may not have that port", Remedy: "Give your account the right to serial ports, or use a browser that has them, and start it anew.",
		Shows: map[inquiry.QuestionID][]string{"granted": only("no"), "says": only("silence")}},
	{ID: "speed", Words: "The port goes at another speed than the board", Remedy: "Set the speed that its firmware family's description tells.",
		Shows: map[inquiry.QuestionID][]string{"says": only("rubbish")}},
	{ID: "otherFirmware", Words: "The board listens for something else: its firmware is another family than you take it for", Remedy: "Choose its family, or describe it; its label and its start-up tones tell it.",
		Shows: map[inquiry.QuestionID][]string{"says": only("silence")}},
	{ID: "speedUnfed", Words: "Speed controllers answer only while the pack is in", Remedy: "Propellers off, pack in, and ask again.",
		Shows: map[inquiry.QuestionID][]string{"reach": only("speed"), "pack": only("yes")}},
	{ID: "otherTool", Words: "The speed controllers are of another generation than the tool that asks them", Remedy: "Take the tool that belongs to their hardware layout.",
		Shows: map[inquiry.QuestionID][]string{"reach": only("speed")}},
}

// Unseen asks why a computer does not see a board; see [inquiry.Inquire].
func Unseen(given map[inquiry.QuestionID]string) (inquiry.Inquiry, error) {
	return inquiry.Inquire(UnseenQuestions, UnseenCauses, given)
}
