package wiring

import (
	"fmt"
	"testing"

	"vividperch/core/quad"
)

func TestClashes(t *testing.T) {
	ports := func(list ...quad.PortFunction) map[string]quad.PortPlan {
		out := map[string]quad.PortPlan{}
		for i, f := range list {
			out[fmt.Sprint(i+1)] = quad.PortPlan{Function: f}
		}
		return out
	}
	on := func(port string) map[string]quad.Wire { return map[string]quad.Wire{"receiver": {Port: port}} }
	for _, c := range []struct {
		name  string
		wires map[string]quad.Wire
		ports map[string]quad.PortPlan
		want  string
	}{
		{"as it should be", on("2"), ports(quad.PortConfigure, quad.PortReceiver), ""},
		{"soldered to another port", on("1"), ports(quad.PortConfigure, quad.PortReceiver), "deaf receiver 1; nobody receiver 2; "},
		{"two ports for one receiver", on("1"), ports(quad.PortReceiver, quad.PortReceiver), "nobody receiver 2; twice receiver 2; "},
		{"nothing soldered", nil, ports(quad.PortNothing, quad.PortSatellite), "nobody satellite 2; "},
		{"a device that needs no port", map[string]quad.Wire{"buzzer": {Port: "9"}}, ports(quad.PortConfigure), ""},
	} {
		got := ""
		for _, x := range Clashes(c.wires, c.ports) {
			got += fmt.Sprintf("%s %s %s; ", x.Kind, x.Device, x.Port)
		}
		if got != c.want {
			t.Errorf("%s: %q, want %q", c.name, got, c.want)
		}
	}
}
