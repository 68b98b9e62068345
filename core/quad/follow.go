package quad

// FollowBoard gives the sheet the outputs and ports that the board of the parts has: what was told of one that stays is kept, what the board
// does not have goes, and of one that is new nothing is told. Of a board whose outputs nobody lettered there are four, A to D, as a quad has four motors; one whose ports nobody
// told changes no port.
func (m *Meant) FollowBoard() {
	letters := m.Parts.Board.Outputs
	if len(letters) == 0 {
		if len(m.Sheet.Motors.Outputs) > 0 {
			letters = SortedKeys(m.Sheet.Motors.Outputs)
		} else {
			letters = []string{"A", "B", "C", "D"}
		}
	}
	outputs := make(map[string]OutputPlan, len(letters))
	before := m.Sheet.Motors.Outputs
	for _, letter := range letters {
		outputs[letter] = before[letter]
	}
	m.Sheet.Motors.Outputs = outputs
	for letter := range before {
		if _, stays := outputs[letter]; !stays {
			m.Sheet.told(outputAt(letter))
		}
	}
	for _, letter := range letters {
		if _, had := before[letter]; !had {
			m.Sheet.begun(letter, "firmware")
		}
	}
	if len(m.Parts.Board.Ports) == 0 {
		return
	}
	ports := make(map[string]PortPlan, len(m.Parts.Board.Ports))
	for name, part := range m.Parts.Board.Ports {
		plan, told := m.Sheet.Wiring.Ports[name]
		switch {
		case told:
		case part.USB:
			plan.Function = PortConfigure
		default:
			plan.Function = PortNothing
		}
		ports[name] = plan
	}
	m.Sheet.Wiring.Ports = ports
}
