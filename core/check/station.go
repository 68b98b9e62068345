package check

import "vividperch/core/quad"

// Station of the line.
type Station string

const (
	Airframe    Station = "airframe"
	FirstPower  Station = "first-power"
	Firmware    Station = "firmware"
	Wiring      Station = "wiring"
	Link        Station = "link"
	Sticks      Station = "sticks"
	Motors      Station = "motors"
	Senses      Station = "senses"
	Feel        Station = "feel"
	PowerWatch  Station = "power-watch"
	LinkLoss    Station = "link-loss"
	Picture     Station = "picture"
	BenchProof  Station = "bench-proof"
	FirstFlight Station = "first-flight"
)

// StationInfo is a station with its name and the one question it answers.
type StationInfo struct {
	ID       Station `json:"id"`
	Name     string  `json:"name"`
	Question string  `json:"question"`
}

// Line of stations in the order of the work.
var Line = []StationInfo{
	{Airframe, "Airframe", "What is on it, and do the parts suit each other?"},
	{FirstPower, "First power", "Is it safe to connect a battery?"},
	{Firmware, "Firmware", "Is the right build on it, and is what was there saved?"},
	{Wiring, "Wiring", "Is every device on the port the controller thinks it is?"},
	{Link, "Link", "Do radio and receiver talk, and keep talking?"},
	{Sticks, "Sticks", "Does it hear what my hands and switches mean?"},
	{Motors, "Motors", "Does every corner push the right way?"},
	{Senses, "Senses", "Does it know which way is up, and where north is?"},
	{Feel, "Feel", "How will it answer my hands?"},
	{PowerWatch, "Power watch", "Will it tell me in time?"},
	{LinkLoss, "Link loss", "What happens when the radio goes quiet?"},
	{Picture, "Picture", "What will I see?"},
	{BenchProof, "Bench proof", "With the props off, does all of it work together?"},
	{FirstFlight, "First flight", "Is today, here, a good time; and how do I go about it?"},
}

// Number of a station on the line, from 1; 0 for an unknown one.
func (s Station) Number() int {
	for i, l := range Line {
		if l.ID == s {
			return i + 1
		}
	}
	return 0
}

// Info of a station.
func (s Station) Info() StationInfo {
	if n := s.Number(); n > 0 {
		return Line[n-1]
	}
	return StationInfo{ID: s}
}

// exercised lists what was in use while the readings of a station were taken, beyond what its rules look at. A proof is of all that worked
// together in it: when one of these changes, what was seen is another quad's.
var exercised = map[Station][]quad.Path{
	// Channels came through these two.
	Sticks: {"parts.receiver.link", "parts.radioModule.link"},
	// Outputs turned these motors through these controllers.
	Motors: {"parts.motor.name", "parts.speedController.name"},
	// It was armed, and stopped or landed, by these.
	LinkLoss: onBoardToo("sheet.sticks.arm", "sheet.sticks.armByStick", "sheet.sticks.order", "parts.receiver.link"),
	// It was armed, turned its motors by their outputs and the frame, answered frame and stick, and lost its radio.
	BenchProof: append(onBoardToo("sheet.sticks.arm", "sheet.sticks.armByStick", "sheet.sticks.armTilt", "sheet.sticks.order", "sheet.sticks.ranges", "sheet.sticks.idleBelow",
		"sheet.motors.outputs", "sheet.motors.protocol", "sheet.motors.idle", "sheet.craft.layout", "sheet.craft.rotation", "sheet.senses.boardRoll", "sheet.senses.boardPitch", "sheet.senses.boardYaw", "sheet.loss.policy", "sheet.loss.guard", "sheet.loss.landThrottle"),
		"readings.motors.outputs", "radio.order", "radio.switches", "radio.mixes", "parts.receiver.link", "parts.motor.name", "parts.speedController.name"),
}

// onBoardToo adds to paths of the sheet the same on the board, which is what was tried.
func onBoardToo(paths ...quad.Path) []quad.Path {
	out := paths
	for _, p := range paths {
		if p.Under("sheet") {
			out = append(out, "board."+p)
		}
	}
	return out
}

// Exercised is what was in use while the readings of a station were taken, beyond what its rules look at.
func (s Station) Exercised() []quad.Path { return exercised[s] }
