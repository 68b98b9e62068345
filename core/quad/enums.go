package quad

import "reflect"

// Enumeration is a kind of word of which there are only some. What may stand at a leaf, its schema and what a page offers all come
// from here.
type Enumeration interface {
	// Enum lists the words, in the order in which they are offered.
	Enum() []string
}

func enum[T ~string](words ...T) []string {
	out := make([]string, len(words))
	for i, w := range words {
		out[i] = string(w)
	}
	return out
}

// Enum implements [Enumeration].
func (Corner) Enum() []string { return enum(Corners[:]...) }

// Enum implements [Enumeration].
func (Spin) Enum() []string { return enum(Clockwise, CounterClockwise) }

// Enum implements [Enumeration].
func (Axis) Enum() []string { return enum(Axes[:]...) }

// Enum implements [Enumeration].
func (Layout) Enum() []string { return enum(LayoutX, LayoutWide, LayoutPlus) }

// Enum implements [Enumeration].
func (Rotation) Enum() []string { return enum(FrontLeftClockwise, FrontLeftCounterClockwise) }

// Enum implements [Enumeration].
func (Renewal) Enum() []string { return enum(ByDate, ByEvent) }

// Enum implements [Enumeration].
func (Policy) Enum() []string { return enum(PolicyDrop, PolicyLand, PolicyReturn) }

// Enum implements [Enumeration].
func (HomeWay) Enum() []string { return enum(WayAsIs, WaySet, WayHighest) }

// Enum implements [Enumeration].
func (AtHome) Enum() []string { return enum(HomeLands, HomeDrops) }

// Enum implements [Enumeration].
func (Reaction) Enum() []string { return enum(ReactNothing, ReactLand, ReactReturn, ReactDrop) }

// Enum implements [Enumeration].
func (During) Enum() []string { return enum(DuringKeep, DuringRest, DuringSet) }

// Enum implements [Enumeration].
func (AlarmRoute) Enum() []string { return enum(RouteTelemetry, RouteDisplay, RouteSounder) }

// Enum implements [Enumeration].
func (LowPassKind) Enum() []string { return enum(LowPassOff, LowPassFirst, LowPassSecond) }

// Enum implements [Enumeration].
func (OnOff) Enum() []string { return enum(On, Off) }

// Enum implements [Enumeration].
func (RecordMedium) Enum() []string { return enum(RecordNothing, RecordChip, RecordCard) }

// Enum implements [Enumeration].
func (RecordPurpose) Enum() []string { return enum(RecordsGains, RecordsFilters, RecordsFlights) }

// Enum implements [Enumeration].
func (LossOutput) Enum() []string { return enum(LossSilence, LossHold, LossPreset) }

// Enum implements [Enumeration].
func (MotorsStop) Enum() []string { return enum(StoppedAfter, NeverStopped, WentOver, Rose) }

// Enum implements [Enumeration].
func (HotMotor) Enum() []string { return append([]string{string(HotNone)}, Corner("").Enum()...) }

// Enum implements [Enumeration].
func (StrengthSource) Enum() []string {
	return enum(StrengthNone, StrengthChannel, StrengthAnalog, StrengthSerial)
}

// Enum implements [Enumeration].
func (Language) Enum() []string { return enum(SerialFrame, TwoWaySerial, PulseTrain) }

// Enum implements [Enumeration].
func (ModulesOn) Enum() []string { return enum(ModuleInternal, ModuleExternal, ModuleBoth, ModuleNone) }

// Enum implements [Enumeration].
func (Polarisation) Enum() []string { return enum(Linear, Crossed, RightHand, LeftHand) }

// Enum implements [Enumeration].
func (ThrottleProtocol) Enum() []string { return enum(ProtocolPulse, ProtocolShort, ProtocolDigital) }

// Enum implements [Enumeration].
func (RateFamily) Enum() []string { return enum(CentrePeak, Compounding, StraightExpo) }

// Enum implements [Enumeration].
func (PortFunction) Enum() []string {
	return enum(PortNothing, PortReceiver, PortSatellite, PortVideo, PortDisplay, PortTelemetry, PortConfigure)
}

var enumerationType = reflect.TypeFor[Enumeration]()

// wordsOf a type; nil for one that is no enumeration.
func wordsOf(t reflect.Type) []string {
	if t.Kind() != reflect.String || !t.Implements(enumerationType) {
		return nil
	}
	return reflect.Zero(t).Interface().(Enumeration).Enum()
}
