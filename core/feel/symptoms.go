package feel

// Symptom is something that a pilot sees a quad do, and that may be the tune or a part.
type Symptom struct {
	Seen  string `json:"seen"`
	Tune  string `json:"tune"`  // where it is that
	Part  string `json:"part"`  // where it is one
	Tells string `json:"tells"` // which of the two
}

// Symptoms in the order in which they are met. What a pilot does about one that is a part, no gain does for him.
func Symptoms() []Symptom {
	return []Symptom{
		{
			"It bounces back at the end of a flip or a turn",
			"Too little derivative or too much integral for its proportional gain; filters that come late; a rate that its motors cannot stop.",
			"Motors that brake slowly: low switching, a heavy propeller, a pack at its end.",
			"The step above: what overshoots there is the tune. What bounces in the air and not there is a part, or a peak beyond the motors.",
		},
		{
			"It wobbles as it sinks into its own wake",
			"More proportional and feed-forward hold it tighter: it is lessened so, and never goes away.",
			"Every rotor does it. Fly out of it: some throttle, and come down at an angle instead of straight.",
			"It goes as soon as it moves forward. What wobbles in still forward flight too is not the wake.",
		},
		{
			"It shakes fast at full throttle",
			"Gains with little in hand: the more throttle, the harder a step of it turns the quad.",
			"A bent bell or propeller, a loose screw, a soft arm: what shakes with the rotors gets to the gyro.",
			"Half the gains: if it still shakes as fast, it is a part. Run each motor alone, without its propeller, and feel which one.",
		},
		{
			"It drifts and leans by itself in a hover",
			"Hardly ever.",
			"A level that is not level, a weight that lies aside, a stick that does not rest at its centre.",
			"The stations Senses, Airframe and Sticks: each has the figure.",
		},
	}
}
