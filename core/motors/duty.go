package motors

// Duty that a throttle asks of a motor, as a share of full: it starts at the idle duty and reaches, at full
// throttle, the limit's share of what lies above it. All three are shares, 0 to 1.
func Duty(throttle, idle, limit float64) float64 { return idle + throttle*limit*(1-idle) }

// Throttle that asks for a duty: the inverse of [Duty]. It is above 1 for a duty that the limit keeps out of
// reach, and infinite where nothing can be reached.
func Throttle(duty, idle, limit float64) float64 { return (duty - idle) / (limit * (1 - idle)) }
