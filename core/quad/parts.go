package quad

// Parts are what is on the quad, as bought or weighed.
type Parts struct {
	Frame           Frame           `json:"frame" label:"Frame"`
	Motor           Motor           `json:"motor" label:"Motor"`
	Propeller       Propeller       `json:"propeller" label:"Propeller"`
	SpeedController SpeedController `json:"speedController" label:"Speed controllers"`
	Board           BoardPart       `json:"board" label:"Board"`
	Packs           map[string]Pack `json:"packs" label:"Pack"`
	Receiver        Receiver        `json:"receiver" label:"Receiver"`
	RadioModule     RadioModule     `json:"radioModule" label:"Radio module"`
	Video           Video           `json:"video" label:"Video"`
	Capacitor       Capacitor       `json:"capacitor" label:"Capacitor"`
	Wires           map[string]Wire `json:"wires" label:"Wire of the"` // by device
	// Devices that are wired to the board, by name, with what each needs.
	Devices     map[string]Device `json:"devices,omitempty" label:"Device"`
	BatteryLead BatteryLead       `json:"batteryLead" label:"Battery lead"`
	// Placed are things with where they sit, by name; "pack" is where whichever pack is in sits, and weighs what it weighs.
	Placed map[string]Thing `json:"placed,omitempty" label:"Placed"`
	// Estimates are figures among the parts that nobody measured or printed.
	Estimates Estimates `json:"estimates,omitempty" label:"Estimated figures"`
}

type Frame struct {
	Name      string  `json:"name" label:"Name"`
	ArmFront  float64 `json:"armFront" asked:"yes" unit:"mm" label:"Motors ahead of the middle" least:"0" most:"1000" because:"a quad of two metres is another trade"`
	ArmSide   float64 `json:"armSide" asked:"yes" unit:"mm" label:"Motors beside the middle" least:"0" most:"1000" because:"a quad of two metres is another trade"`
	LegHeight float64 `json:"legHeight" asked:"yes" unit:"mm" label:"Feet below the motor plane" least:"0" most:"500" because:"half a metre of legs"`
	TipGap    float64 `json:"tipGap" unit:"mm" label:"Clearance at the propeller tips" least:"-50" most:"500" because:"negative is overlap"`
	DragArea  float64 `json:"dragArea" asked:"yes" unit:"cm²" label:"Drag area, coefficient included" least:"0" most:"5000" because:"half a square metre"`
	Mass      float64 `json:"mass" asked:"yes" unit:"g" label:"Mass without pack, by parts" least:"0" most:"25000" because:"25 kg is where another class begins"`
	// What other parts must fit to; 0 is not told, and is not judged.
	StackHoles  float64 `json:"stackHoles,omitempty" unit:"mm" label:"Spacing of the stack's holes" least:"0" most:"200" because:"no stack is 20 cm wide"`
	StackRoom   float64 `json:"stackRoom,omitempty" unit:"mm" label:"Height for the stack" least:"0" most:"300" because:"no stack is 30 cm high"`
	CameraRoom  float64 `json:"cameraRoom,omitempty" unit:"mm" label:"Width for the camera" least:"0" most:"200" because:"no such camera is 20 cm wide"`
	MotorCircle float64 `json:"motorCircle,omitempty" unit:"mm" label:"Bolt circle for the motors" least:"0" most:"100" because:"no motor here is 10 cm wide"`
	ArmThick    float64 `json:"armThick,omitempty" unit:"mm" label:"Thickness of an arm under a motor" least:"0" most:"50" because:"five centimetres is a beam"`
}

type Motor struct {
	Name        string  `json:"name" label:"Name"`
	KV          float64 `json:"kv" asked:"yes" unit:"rpm/V" label:"Speed constant KV" orNothing:"yes" least:"10" most:"50000" because:"the smallest motors reach about 30,000"`
	Resistance  float64 `json:"resistance" asked:"yes" unit:"mΩ" label:"Winding resistance" orNothing:"yes" least:"1" most:"5000" because:"5 Ω would melt"`
	IdleCurrent float64 `json:"idleCurrent" unit:"A" label:"No-load current" least:"0" most:"20" because:"more idles no propeller"`
	Poles       int     `json:"poles" asked:"yes" unit:"count" label:"Poles" least:"0" most:"60" because:"motors have 2 to 60 poles"`
	PeakCurrent float64 `json:"peakCurrent" unit:"A" label:"Rated peak current" least:"0" most:"500" because:"no motor here takes 500 A"`
	Circle      float64 `json:"circle,omitempty" unit:"mm" label:"Bolt circle" least:"0" most:"100" because:"no motor here is 10 cm wide"`
	Thread      float64 `json:"thread,omitempty" unit:"mm" label:"Depth of its threads down to the winding" least:"0" most:"50" because:"no such motor is that high"`
	Screw       float64 `json:"screw,omitempty" unit:"mm" label:"Length of the screws that hold it" least:"0" most:"60" because:"six centimetres go through everything"`
	Mass        float64 `json:"mass,omitempty" unit:"g" label:"Mass, each" least:"0" most:"2000" because:"a motor of 2 kg lifts another trade"`
	TimeConst   float64 `json:"timeConstant" unit:"ms" label:"Time constant with propeller" least:"0" most:"1000" because:"a motor that takes a second does not hold a quad"`
}

type Propeller struct {
	Name      string  `json:"name" label:"Name"`
	Diameter  float64 `json:"diameter" asked:"yes" unit:"mm" label:"Diameter" orNothing:"yes" least:"10" most:"1000" because:"a metre is another trade"`
	Thrust    float64 `json:"thrust" asked:"yes" unit:"1" label:"Thrust coefficient" orNothing:"yes" least:"0.001" most:"1" because:"the coefficient is about 0.1"`
	Power     float64 `json:"power" asked:"yes" unit:"1" label:"Power coefficient" orNothing:"yes" least:"0.0005" most:"1" because:"the coefficient is about 0.05"`
	Reversed  float64 `json:"reversed" unit:"1" label:"Share of thrust when turned backwards" least:"0" most:"1" because:"a share"`
	NutTorque float64 `json:"nutTorque" unit:"N·m" label:"Nut torque" least:"0" most:"20" because:"more shears the shaft"`
}

type SpeedController struct {
	Name       string  `json:"name" label:"Name"`
	Continuous float64 `json:"continuous" asked:"yes" unit:"A" label:"Continuous current, each" least:"0" most:"500" because:"no speed controller here carries 500 A"`
	CellsMin   int     `json:"cellsMin" unit:"count" label:"Fewest cells" least:"0" most:"12" because:"packs have 1 to 12 cells"`
	CellsMax   int     `json:"cellsMax" unit:"count" label:"Most cells" least:"0" most:"14" because:"packs have 1 to 12 cells"`
	TwoWay     bool    `json:"twoWay" label:"Can answer on the throttle wire"`
	Layout     string  `json:"layout" label:"Hardware layout their firmware is for; nothing when they cannot be asked"`
	Holes      float64 `json:"holes,omitempty" unit:"mm" label:"Spacing of its holes; 0 where it is on no stack" least:"0" most:"200" because:"no stack is 20 cm wide"`
	IdleDraw   float64 `json:"idleDraw" unit:"mA" label:"Draw at rest, all four" least:"0" most:"5000" because:"5 A at rest is a short"`
}

type BoardPart struct {
	Name     string              `json:"name" label:"Name"`
	Target   string              `json:"target" label:"Build it needs"`
	CellsMax int                 `json:"cellsMax" unit:"count" label:"Most cells" least:"0" most:"14" because:"packs have 1 to 12 cells"`
	Holes    float64             `json:"holes,omitempty" unit:"mm" label:"Spacing of its holes" least:"0" most:"200" because:"no stack is 20 cm wide"`
	IdleDraw float64             `json:"idleDraw" unit:"mA" label:"Draw from the pack" least:"0" most:"5000" because:"5 A at rest is a short"`
	Outputs  []string            `json:"outputs" label:"Outputs, as lettered on the board"`
	Ports    map[string]PortPart `json:"ports" label:"Port"`
	Rails    map[string]Rail     `json:"rails,omitempty" label:"Rail"`
	Buses    []string            `json:"buses,omitempty" label:"Two-wire buses"`
	Memory   float64             `json:"memory,omitempty" unit:"MB" label:"Memory for recordings, card included" least:"0" most:"1000000" because:"no card here holds a terabyte"`
}

type PortPart struct {
	Inverts bool    `json:"inverts" label:"Can invert its input"`
	USB     bool    `json:"usb" label:"On the USB plug, for configuring"`
	Send    bool    `json:"send" label:"Has a pad that sends"`
	Receive bool    `json:"receive" label:"Has a pad that receives"`
	OneWire bool    `json:"oneWire" label:"Can send and receive in turn on one wire"`
	Most    float64 `json:"most" unit:"kBd" label:"Fastest; 0 is as fast as any device" least:"0" most:"10000" because:"no serial port here is faster than 10 MBd"`
	Direct  bool    `json:"direct" label:"Moves its bytes by itself, with direct memory access"`
	Soft    bool    `json:"soft" label:"A timer pad, as software serial"`
	Was     string  `json:"was" label:"What the pad does otherwise"`
}

// Rail of the board that feeds devices.
type Rail struct {
	Volts float64 `json:"volts" unit:"V" label:"Voltage; 0 is the pack's own" least:"0" most:"60" because:"twelve full cells have 52 V"`
	Most  float64 `json:"most" unit:"mA" label:"Current it gives" least:"0" most:"20000" because:"20 A is a battery lead, no rail"`
	USB   bool    `json:"usb" label:"Fed by USB too"`
	Quiet bool    `json:"quiet" label:"Filtered for what minds noise"`
}

// Device that is wired to the board.
type Device struct {
	Function PortFunction `json:"function" label:"What its port must be told"`
	Talks    bool         `json:"talks" label:"Talks to the board"`
	Listens  bool         `json:"listens" label:"Listens to the board"`
	OneWire  bool         `json:"oneWire" label:"Talks and listens in turn on one wire"`
	Inverted bool         `json:"inverted" label:"Inverted"`
	Baud     float64      `json:"baud" unit:"kBd" label:"Speed" least:"0" most:"10000" because:"no serial port here is faster than 10 MBd"`
	Direct   bool         `json:"direct" label:"Wants a port with direct memory access"`
	Bus      bool         `json:"bus" label:"On a two-wire bus"`
	Address  int          `json:"address" unit:"count" label:"Bus address" least:"0" most:"127" because:"addresses have seven bits"`
	Least    float64      `json:"least" unit:"V" label:"Supply from" least:"0" most:"60" because:"twelve full cells have 52 V"`
	Most     float64      `json:"most" unit:"V" label:"Supply to" least:"0" most:"60" because:"twelve full cells have 52 V"`
	Draw     float64      `json:"draw" unit:"mA" label:"Draws" least:"0" most:"20000" because:"20 A is a battery lead, no rail"`
	Quiet    bool         `json:"quiet" label:"Wants a quiet supply"`
	Magnetic bool         `json:"magnetic" label:"Holds a compass"`
	Apart    float64      `json:"apart" unit:"mm" label:"From the nearer battery lead" least:"0" most:"2000" because:"two metres are another quad"`
	Video    float64      `json:"video" unit:"mm" label:"From the video transmitter" least:"0" most:"2000" because:"two metres are another quad"`
}

// BatteryLead makes the field at a compass.
type BatteryLead struct {
	Spacing float64 `json:"spacing" unit:"mm" label:"Between the middles of its two wires" least:"0" most:"500" because:"half a metre apart they are no pair"`
	Twisted bool    `json:"twisted" label:"Twisted"`
	Plug    float64 `json:"plug,omitempty" unit:"A" label:"Current that its plug carries all the time" least:"0" most:"500" because:"no plug here carries 500 A"`
	Area    float64 `json:"area,omitempty" unit:"mm²" label:"Cross-section of a wire" least:"0" most:"50" because:"50 mm² starts a lorry"`
}

// Thing is something on the quad with its mass and its box: the box's middle from the middle between the motors, above the motor plane, and its edges.
type Thing struct {
	Mass     float64 `json:"mass" unit:"g" label:"Mass" least:"0" most:"25000" because:"25 kg is where another class begins"`
	Ahead    float64 `json:"ahead" unit:"mm" label:"Ahead of the middle" least:"-1000" most:"1000" because:"a quad of two metres is another trade"`
	Right    float64 `json:"right" unit:"mm" label:"Right of the middle" least:"-1000" most:"1000" because:"a quad of two metres is another trade"`
	Above    float64 `json:"above" unit:"mm" label:"Above the motor plane" least:"-1000" most:"1000" because:"a quad of two metres is another trade"`
	Long     float64 `json:"long" unit:"mm" label:"Long, front to rear" least:"0" most:"1000" because:"a metre is another trade"`
	Wide     float64 `json:"wide" unit:"mm" label:"Wide, side to side" least:"0" most:"1000" because:"a metre is another trade"`
	High     float64 `json:"high" unit:"mm" label:"High" least:"0" most:"1000" because:"a metre is another trade"`
	Protects bool    `json:"protects" label:"Only protects"`
}

type Pack struct {
	Cells      int     `json:"cells" asked:"yes" unit:"count" label:"Cells" least:"0" most:"12" because:"packs have 1 to 12 cells"`
	Capacity   float64 `json:"capacity" asked:"yes" unit:"mAh" label:"Capacity" least:"0" most:"60000" because:"60 Ah does not fly"`
	Discharge  float64 `json:"discharge" asked:"yes" unit:"1/h" label:"Discharge rating" least:"0" most:"300" because:"no cell delivers 300 times its capacity in an hour"`
	Resistance float64 `json:"resistance" asked:"yes" unit:"mΩ" label:"Internal resistance" orNothing:"yes" least:"0.1" most:"2000" because:"2 Ω cannot lift anything"`
	Mass       float64 `json:"mass" asked:"yes" unit:"g" label:"Mass" least:"0" most:"15000" because:"15 kg of pack does not fly"`
}

type Receiver struct {
	Name      string `json:"name" label:"Name"`
	Link      string `json:"link" asked:"yes" label:"Link"`
	Version   string `json:"version" asked:"yes" label:"Version"`
	Band      string `json:"band" asked:"yes" label:"Band"`
	Target    string `json:"target,omitempty" label:"Hardware, as images are made for it"`
	Inverted  bool   `json:"inverted" label:"Sends an inverted frame"`
	Telemetry bool   `json:"telemetry" label:"Sends telemetry"`
	// Language it speaks to the board, and how fast where it is another speed than the language's usual one; not told, neither is judged.
	Language Language `json:"language,omitempty" asked:"later" label:"Language it speaks to the board"`
	Speed    float64  `json:"speed,omitempty" unit:"kBd" label:"Speed of its output; 0 is the usual one of its language" least:"0" most:"10000" because:"no serial port here is faster than 10 MBd"`
	IdleDraw float64  `json:"idleDraw" unit:"mA" label:"Draw from the pack" least:"0" most:"5000" because:"5 A at rest is a short"`
	// Region that its firmware is for, as its maker words it; empty when there is only one.
	Region          string         `json:"region" label:"Region of the receiver's firmware"`
	Gain            float64        `json:"gain" unit:"dBi" label:"Gain of its antenna" least:"-20" most:"30" because:"no antenna that flies has 30 dBi"`
	Polarisation    Polarisation   `json:"polarisation" label:"Polarisation of its antenna"`
	Frame           float64        `json:"frame" unit:"ms" label:"Period of its output to the board" least:"0" most:"100" because:"ten frames a second fly nothing"`
	Strength        StrengthSource `json:"strength" label:"How it tells the link's strength"`
	StrengthChannel int            `json:"strengthChannel" unit:"count" label:"Channel it puts the strength on" least:"0" most:"18" because:"a link carries 18 channels at most; 0 is unused"`
}

type RadioModule struct {
	Name    string  `json:"name" label:"Name"`
	Link    string  `json:"link" asked:"yes" label:"Link"`
	Version string  `json:"version" asked:"yes" label:"Version"`
	Band    string  `json:"band" asked:"yes" label:"Band"`
	Power   float64 `json:"power" asked:"yes" unit:"mW" label:"Power" least:"0" most:"10000" because:"10 W is more than any module sends"`
	// External is in the bay at the radio's back, not built in.
	External     bool         `json:"external" label:"In the radio's bay, not built in"`
	Target       string       `json:"target,omitempty" label:"Hardware, as images are made for it"`
	Region       string       `json:"region" label:"Region of the module's firmware"`
	Gain         float64      `json:"gain" unit:"dBi" label:"Gain of its antenna" least:"-20" most:"30" because:"nobody walks about with 30 dBi"`
	Polarisation Polarisation `json:"polarisation" label:"Polarisation of its antenna"`
}

type Video struct {
	Name     string  `json:"name" label:"Name"`
	Fitted   bool    `json:"fitted" label:"Fitted"`
	CellsMax int     `json:"cellsMax" unit:"count" label:"Most cells" least:"0" most:"14" because:"packs have 1 to 12 cells"`
	IdleDraw float64 `json:"idleDraw" unit:"mA" label:"Draw from the pack at lowest power" least:"0" most:"5000" because:"5 A at rest is a short"`
	// The camera: how wide it is, how far it looks up from level, and how much it sees from top to bottom.
	CameraWide float64 `json:"cameraWide,omitempty" unit:"mm" label:"Width of the camera" least:"0" most:"200" because:"no such camera is 20 cm wide"`
	CameraTilt float64 `json:"cameraTilt,omitempty" unit:"deg" label:"Camera looks up by" least:"0" most:"80" because:"at 80° it sees the sky alone"`
	CameraView float64 `json:"cameraView,omitempty" unit:"deg" label:"Camera sees from top to bottom" least:"0" most:"170" because:"no lens here sees more"`
}

type Capacitor struct {
	Capacitance float64 `json:"capacitance" unit:"µF" label:"Capacitance" least:"0" most:"100000" because:"a tenth of a farad does not fit"`
	Rating      float64 `json:"rating" asked:"yes" unit:"V" label:"Voltage rating" least:"0" most:"200" because:"200 V is not on a quad"`
	Resistance  float64 `json:"resistance" unit:"mΩ" label:"Series resistance" least:"0" most:"10000" because:"10 Ω is no capacitor for this"`
	Count       int     `json:"count,omitempty" unit:"count" label:"Of them side by side; 0 is one" least:"0" most:"20" because:"twenty do not fit"`
	LeadLength  float64 `json:"leadLength" unit:"cm" label:"Lead length" least:"0" most:"100" because:"a metre of lead is no capacitor at all"`
}

// Together is the capacitance of all that lie side by side, µF.
func (c Capacitor) Together() float64 { return float64(max(1, c.Count)) * c.Capacitance }

// Wire is where a device is soldered.
type Wire struct {
	Port string `json:"port" label:"Port"`
	// Out is the pad that the device's output is soldered to, In that of its input; empty is the port's own pad for it.
	Out   string          `json:"out,omitempty" label:"Pad of its output"`
	In    string          `json:"in,omitempty" label:"Pad of its input"`
	Bus   string          `json:"bus,omitempty" label:"Bus"`
	Rail  string          `json:"rail,omitempty" label:"Rail"`
	Leads map[string]Lead `json:"leads,omitempty" label:"Wire"` // by signal
}

// Lead is one wire as the pilot made it.
type Lead struct {
	Colour  string  `json:"colour,omitempty" label:"Colour"`
	Length  float64 `json:"length" unit:"mm" label:"Length" least:"0" most:"2000" because:"two metres are another quad"`
	Twisted string  `json:"twisted,omitempty" label:"Twisted with"`
}
