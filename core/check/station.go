package check

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

// Stop on the line: a station with its name and the one question it answers.
type StationInfo struct {
	ID       Station `json:"id"`
	Name     string  `json:"name"`
	Question string  `json:"question"`
}

// Line of stations in the order of the work.
var Line = []StationInfo{
	{Airframe, "Airframe", "What is on it, and do the parts suit each other?"},
	{FirstPower, "First power", "Is it safe to connect a battery?"},
	{Firmware, "Firmware", "Is the right build on the right board, and is what was there saved?"},
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
