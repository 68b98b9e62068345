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
}

type Frame struct {
	Name      string  `json:"name" label:"Name"`
	ArmFront  float64 `json:"armFront" unit:"mm" label:"Motors ahead of the middle"`
	ArmSide   float64 `json:"armSide" unit:"mm" label:"Motors beside the middle"`
	LegHeight float64 `json:"legHeight" unit:"mm" label:"Feet below the motor plane"`
	TipGap    float64 `json:"tipGap" unit:"mm" label:"Clearance at the propeller tips"`
	DragArea  float64 `json:"dragArea" unit:"cm²" label:"Drag area, coefficient included"`
	Mass      float64 `json:"mass" unit:"g" label:"Mass without pack, by parts"`
}

type Motor struct {
	Name        string  `json:"name" label:"Name"`
	KV          float64 `json:"kv" unit:"rpm/V" label:"Speed constant KV"`
	Resistance  float64 `json:"resistance" unit:"mΩ" label:"Winding resistance"`
	IdleCurrent float64 `json:"idleCurrent" unit:"A" label:"No-load current"`
	Poles       int     `json:"poles" unit:"count" label:"Poles"`
	PeakCurrent float64 `json:"peakCurrent" unit:"A" label:"Rated peak current"`
	TimeConst   float64 `json:"timeConstant" unit:"ms" label:"Time constant with propeller"`
}

type Propeller struct {
	Name      string  `json:"name" label:"Name"`
	Diameter  float64 `json:"diameter" unit:"mm" label:"Diameter"`
	Thrust    float64 `json:"thrust" unit:"1" label:"Thrust coefficient"`
	Power     float64 `json:"power" unit:"1" label:"Power coefficient"`
	Reversed  float64 `json:"reversed" unit:"1" label:"Share of thrust when turned backwards"`
	NutTorque float64 `json:"nutTorque" unit:"N·m" label:"Nut torque"`
}

type SpeedController struct {
	Name       string  `json:"name" label:"Name"`
	Continuous float64 `json:"continuous" unit:"A" label:"Continuous current, each"`
	CellsMin   int     `json:"cellsMin" unit:"count" label:"Fewest cells"`
	CellsMax   int     `json:"cellsMax" unit:"count" label:"Most cells"`
	TwoWay     bool    `json:"twoWay" label:"Can answer on the throttle wire"`
	IdleDraw   float64 `json:"idleDraw" unit:"mA" label:"Draw at rest, all four"`
}

type BoardPart struct {
	Name     string              `json:"name" label:"Name"`
	Target   string              `json:"target" label:"Build it needs"`
	CellsMax int                 `json:"cellsMax" unit:"count" label:"Most cells"`
	IdleDraw float64             `json:"idleDraw" unit:"mA" label:"Draw from the pack"`
	Outputs  []string            `json:"outputs" label:"Outputs, as lettered on the board"`
	Ports    map[string]PortPart `json:"ports" label:"Port"`
}

type PortPart struct {
	Inverts bool `json:"inverts" label:"Can invert its input"`
}

type Pack struct {
	Cells      int     `json:"cells" unit:"count" label:"Cells"`
	Capacity   float64 `json:"capacity" unit:"mAh" label:"Capacity"`
	Discharge  float64 `json:"discharge" unit:"1/h" label:"Discharge rating"`
	Resistance float64 `json:"resistance" unit:"mΩ" label:"Internal resistance"`
	Mass       float64 `json:"mass" unit:"g" label:"Mass"`
}

type Receiver struct {
	Name      string  `json:"name" label:"Name"`
	Link      string  `json:"link" label:"Link"`
	Version   string  `json:"version" label:"Version"`
	Band      string  `json:"band" label:"Band"`
	Inverted  bool    `json:"inverted" label:"Sends an inverted frame"`
	Telemetry bool    `json:"telemetry" label:"Sends telemetry"`
	IdleDraw  float64 `json:"idleDraw" unit:"mA" label:"Draw from the pack"`
}

type RadioModule struct {
	Name    string  `json:"name" label:"Name"`
	Link    string  `json:"link" label:"Link"`
	Version string  `json:"version" label:"Version"`
	Band    string  `json:"band" label:"Band"`
	Power   float64 `json:"power" unit:"mW" label:"Power"`
}

type Video struct {
	Name     string  `json:"name" label:"Name"`
	Fitted   bool    `json:"fitted" label:"Fitted"`
	CellsMax int     `json:"cellsMax" unit:"count" label:"Most cells"`
	IdleDraw float64 `json:"idleDraw" unit:"mA" label:"Draw from the pack at lowest power"`
}

type Capacitor struct {
	Capacitance float64 `json:"capacitance" unit:"µF" label:"Capacitance"`
	Rating      float64 `json:"rating" unit:"V" label:"Voltage rating"`
	Resistance  float64 `json:"resistance" unit:"mΩ" label:"Series resistance"`
	LeadLength  float64 `json:"leadLength" unit:"cm" label:"Lead length"`
}

// Wire is where a device is soldered.
type Wire struct {
	Port string `json:"port" label:"Port"`
}
