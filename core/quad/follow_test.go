package quad

import (
	"reflect"
	"testing"
)

func TestSheetFollowsTheBoard(t *testing.T) {
	board := BoardPart{Outputs: []string{"C", "A", "D", "B"}, Ports: map[string]PortPart{"1": {Send: true}, "2": {Receive: true}, "USB": {USB: true}}}
	for _, x := range []struct {
		name    string
		board   BoardPart
		outputs map[string]OutputPlan
		ports   map[string]PortPlan
		want    followed
	}{
		{"nothing was told", board, nil, nil, followed{
			map[string]OutputPlan{"A": {}, "B": {}, "C": {}, "D": {}},
			map[string]PortPlan{"1": {Function: PortNothing}, "2": {Function: PortNothing}, "USB": {Function: PortConfigure}},
		}},
		{"what stays is kept, what the board lacks goes", board,
			map[string]OutputPlan{"A": {Corner: RearLeft, Reversed: true}, "5": {Corner: FrontLeft}},
			map[string]PortPlan{"2": {Function: PortReceiver, Baud: 420}, "7": {Function: PortDisplay}},
			followed{
				map[string]OutputPlan{"A": {Corner: RearLeft, Reversed: true}, "B": {}, "C": {}, "D": {}},
				map[string]PortPlan{"1": {Function: PortNothing}, "2": {Function: PortReceiver, Baud: 420}, "USB": {Function: PortConfigure}},
			}},
		{"nobody lettered them", BoardPart{}, nil, map[string]PortPlan{"2": {Function: PortReceiver}}, followed{
			map[string]OutputPlan{"A": {}, "B": {}, "C": {}, "D": {}}, map[string]PortPlan{"2": {Function: PortReceiver}},
		}},
		{"a list named them", BoardPart{}, map[string]OutputPlan{"1": {Corner: RearRight}}, nil, followed{map[string]OutputPlan{"1": {Corner: RearRight}}, nil}},
	} {
		m := Meant{}
		m.Parts.Board, m.Sheet.Motors.Outputs, m.Sheet.Wiring.Ports = x.board, x.outputs, x.ports
		m.FollowBoard()
		if got := (followed{m.Sheet.Motors.Outputs, m.Sheet.Wiring.Ports}); !reflect.DeepEqual(got, x.want) {
			t.Errorf("%s: %+v, want %+v", x.name, got, x.want)
		}
	}
}

// followed is what of a sheet follows the board.
type followed struct {
	Outputs map[string]OutputPlan
	Ports   map[string]PortPlan
}
