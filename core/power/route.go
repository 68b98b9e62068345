package power

import "vividperch/core/quad"

// RouteLacks is why an alarm cannot come by a route with these parts and this link, and what to do about it; both are empty where it can.
func RouteLacks(route quad.AlarmRoute, p quad.Parts, l quad.LinkSheet) (why, remedy string) {
	switch {
	case route == quad.RouteTelemetry && !p.Receiver.Telemetry:
		return "The receiver sends no telemetry, so the radio hears nothing of the pack.", "Prove the display or the sounder, or fit a receiver that sends telemetry"
	case route == quad.RouteTelemetry && !l.Telemetry:
		return "The board sends no telemetry to the receiver.", "Switch telemetry on at Link, or prove the display or the sounder"
	case route == quad.RouteDisplay && !p.Video.Fitted:
		return "There is no video, so nothing is shown in goggles.", "Prove the radio or the sounder"
	}
	return "", ""
}
