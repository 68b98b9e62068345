package power

// open circuit voltages (V) of a lithium cell at rest, by twentieths of its charge that are left, from none to all. They are those of common
// lithium-polymer cells at room temperature, within 30 mV.
var open = [21]float64{3.27, 3.61, 3.69, 3.71, 3.73, 3.75, 3.77, 3.79, 3.80, 3.82, 3.84, 3.85, 3.87, 3.91, 3.95, 3.98, 4.02, 4.08, 4.11, 4.15, 4.20}

// OpenVolts of a cell (V) of which a share of the charge, 0 to 1, is left. Beyond both ends it runs on as straight as it does at them.
func OpenVolts(left float64) float64 {
	x := left * 20
	i := min(max(int(x), 0), 19)
	return open[i] + (x-float64(i))*(open[i+1]-open[i])
}

// Left is the share of a cell's charge that is left at an open-circuit voltage (V): the inverse of [OpenVolts].
func Left(volts float64) float64 {
	i := 0
	for i < 19 && open[i+1] < volts {
		i++
	}
	return (float64(i) + (volts-open[i])/(open[i+1]-open[i])) / 20
}
