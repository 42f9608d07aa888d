// Package system says how a person builds: which products lie in which layers, in which order they are laid, what is
// waited for between them and by what the work is accepted. A system is data that a person sees, chooses and changes;
// it knows the names of its products, not their figures: those stand on the printings of their sheets.
//
// Layers stand from the base up. Order makes the steps of the work from the layers and from the ways a person works
// in; what was moved, added, dropped or linked by hand is laid over it.
package system

import (
	"slices"
	"strings"
)

// System is one revision of a way to build.
type System struct {
	ID         string    `json:"id"`
	Revision   string    `json:"revision"`
	Name       string    `json:"name"`
	Chemistry  string    `json:"chemistry,omitempty"` // of what makes it tight
	Sample     bool      `json:"sample"`              // a shipped one: to be copied, not to be worked by outside the demo
	CopiedFrom string    `json:"copied_from,omitempty"`
	Replaces   string    `json:"replaces,omitempty"`           // id of the revision before it
	Zones      []Zone    `json:"zones,omitempty" maxItems:"6"` // where parts of an area are worked each by itself
	Ways       []Way     `json:"ways" maxItems:"60"`
	Options    []Option  `json:"options,omitempty" maxItems:"40"`
	Products   []Product `json:"products" maxItems:"120"`
	Layers     []Layer   `json:"layers" maxItems:"60"`
	Stages     []Stage   `json:"stages,omitempty" maxItems:"40"` // what is said otherwise of a stage and its steps; visits
	Edits      []Edit    `json:"edits,omitempty" maxItems:"200"` // the order changed by hand, in the order of changing
	Proofs     []Proof   `json:"proofs" maxItems:"10"`
	Remedies   []Remedy  `json:"remedies,omitempty" maxItems:"60"`
}

// Way is how a person works in one matter; it may hold for a place alone.
type Way struct {
	School string `json:"school"` // one of Schools
	Way    string `json:"way"`
	Where  *Where `json:"where,omitempty"`
}

// Option is a part that may be laid or left: a top coat, another finish.
type Option struct {
	ID      string   `json:"id"`
	Line    string   `json:"line"`
	Choices []string `json:"choices" maxItems:"20"`
	Decided string   `json:"decided"` // "plan" or "site"
}

// Product is what the system calls one of its products.
type Product struct {
	Key     string `json:"key"`          // "primer_porous", "tape_wide"
	Product string `json:"product"`      // what its printings have in common (sheet.Sheet.Of)
	Role    string `json:"role"`         // one of sheet.Roles
	In      string `json:"in,omitempty"` // "option.choice" it belongs to
	Zone    string `json:"zone,omitempty"`
}

// Where lies a layer: on what, and which of it. An empty list means any.
type Where struct {
	On       string   `json:"on"` // one of Places
	Faces    []string `json:"faces,omitempty" maxItems:"20"`
	Grounds  []string `json:"grounds,omitempty" maxItems:"40"`
	Joints   []string `json:"joints,omitempty" maxItems:"40"`
	Fittings []string `json:"fittings,omitempty" maxItems:"40"`
	Edges    []string `json:"edges,omitempty" maxItems:"40"`
	Corners  []string `json:"corners,omitempty" maxItems:"40"`
	Spots    []string `json:"spots,omitempty" maxItems:"40"`
	Areas    []string `json:"areas,omitempty" maxItems:"40"`
	Width    float64  `json:"width_mm,omitempty" minimum:"0" maximum:"10000"`
	Up       float64  `json:"up_mm,omitempty" minimum:"0" maximum:"30000"`      // as high as this above the floor
	FromUp   float64  `json:"from_up_mm,omitempty" minimum:"0" maximum:"30000"` // from this height on
	Out      float64  `json:"out_mm,omitempty" minimum:"0" maximum:"30000"`     // as far out from what it is on
	Past     float64  `json:"past_mm,omitempty" minimum:"0" maximum:"3000"`     // past the film's edge
}

// Layer is one product on its places.
type Layer struct {
	ID      string    `json:"id"`
	Product string    `json:"product"`          // key
	Course  string    `json:"course,omitempty"` // what is laid, accepted and waited for together; "": by its neighbours; "finish": after the proof
	Where   []Where   `json:"where" maxItems:"20"`
	Coats   []Coat    `json:"coats" maxItems:"12"`
	Total   *Target   `json:"total,omitempty"` // of all coats together: those without a target of their own share it
	Count   *Count    `json:"count,omitempty"`
	Carries []Carries `json:"carries,omitempty" maxItems:"20"`
	Mix     *Mix      `json:"mix,omitempty"`
	Accept  *Accept   `json:"accept,omitempty"`
	Like    string    `json:"like,omitempty"` // a layer laid once more: it is bought again
	Before  string    `json:"-"`              // of a fitted system: the coat, "layer.coat", that it is laid once more for
	In      string    `json:"in,omitempty"`   // "option.choice"
	Zone    string    `json:"zone,omitempty"`
}

// Count is how many coats there may be, where the printing says how many there are.
type Count struct {
	Least   int     `json:"least" minimum:"1" maximum:"12"`
	Most    int     `json:"most" minimum:"1" maximum:"12"`
	Of      *Figure `json:"of,omitempty"`                           // the printing's number; "": as many as are listed
	Upright *Figure `json:"upright,omitempty"`                      // its number on what stands, where it is another one
	Plus    int     `json:"plus,omitempty" minimum:"0" maximum:"4"` // one more hot coat than felts
}

// Coat is one time over.
type Coat struct {
	ID      string   `json:"id"`
	Target  *Target  `json:"target,omitempty"`
	Faces   []string `json:"faces,omitempty" maxItems:"20"`
	Face    string   `json:"face,omitempty"`    // of the base under it: one of Faces
	On      string   `json:"on,omitempty"`      // state of the coat under it: one of Ons
	Colour  string   `json:"colour,omitempty"`  // a name, or "contrast"
	Strokes string   `json:"strokes,omitempty"` // one of Strokes
	Minds   []Minds  `json:"minds,omitempty" maxItems:"8"`
}

// Target is what a coat asks for: one kind of figure.
type Target struct {
	Kind   string  `json:"kind"` // one of Targets
	Figure *Figure `json:"figure,omitempty"`
	Second *Figure `json:"second,omitempty"`                             // a bead's depth
	Times  *Figure `json:"times,omitempty"`                              // so many of it laid as one
	Parts  int     `json:"-"`                                            // coats that share it, of a fitted system
	Least  float64 `json:"least_mm,omitempty" minimum:"0" maximum:"500"` // of a fall
	Most   float64 `json:"most_mm,omitempty" minimum:"0" maximum:"500"`
}

// Figure is a name on a product's sheet, or what who laid out the system says.
type Figure struct {
	Of     string   `json:"of,omitempty"` // "membrane.wft_per_coat"
	Value  *float64 `json:"value,omitempty"`
	High   *float64 `json:"high,omitempty"` // the upper end of a range
	Unit   string   `json:"unit,omitempty"`
	Says   string   `json:"says,omitempty"`  // as typed
	Basis  string   `json:"basis,omitempty"` // "mixed" or "powder"
	Reason string   `json:"reason,omitempty"`
}

// Product is the key of the product on whose sheet a figure stands, and its name there.
func (f *Figure) Product() (key, name string) {
	if f == nil {
		return "", ""
	}
	key, name, _ = strings.Cut(f.Of, ".")
	return key, name
}

// Carries is what is laid into a layer, strewn on it or mixed with it.
type Carries struct {
	Product    string   `json:"product"` // key
	InCoat     []string `json:"in_coat" maxItems:"12"`
	How        string   `json:"how"`                           // one of Hows
	Where      []Where  `json:"where,omitempty" maxItems:"20"` // else where the layer is
	ShareBelow *Figure  `json:"share_below,omitempty"`         // of the coats it lies in, laid before it
	Amount     *Figure  `json:"amount,omitempty"`
	Stagger    float64  `json:"stagger_mm,omitempty" minimum:"0" maximum:"5000"`
}

// Mix is how it is mixed.
type Mix struct {
	By        string   `json:"by"`                                // "scale", "feel" or "none"
	Additives []string `json:"additives,omitempty" maxItems:"12"` // keys
	Water     string   `json:"water,omitempty"`                   // "by_tool"
}

// Accept is by what a layer is accepted.
type Accept struct {
	By       string `json:"by"` // one of AcceptedBy
	Readings int    `json:"readings,omitempty" minimum:"0" maximum:"1000"`
}

// Minds is a watch and no step: what must not come over a coat until it bears it.
type Minds struct {
	What  string `json:"what"`  // "rain", "frost", "sun" or "wind"
	Until string `json:"until"` // a state, or the name of a table on the product's sheet
}

// Doing is what a step is there for.
type Doing string

// Doings of steps.
const (
	Survey    Doing = "survey"
	Plan      Doing = "plan"
	Prepare   Doing = "prepare"
	Check     Doing = "check"
	Cut       Doing = "cut"
	Wet       Doing = "wet"
	Place     Doing = "place"
	Lay       Doing = "lay"
	Embed     Doing = "embed"
	Mask      Doing = "mask"
	Unmask    Doing = "unmask"
	Mist      Doing = "mist"
	Wait      Doing = "wait"
	PlanTest  Doing = "plan_test"
	Fill      Doing = "fill"
	Test      Doing = "test"
	SprayTest Doing = "spray_test"
	Drain     Doing = "drain"
	Rinse     Doing = "rinse"
	Protect   Doing = "protect"
	Unprotect Doing = "unprotect"
	Milestone Doing = "milestone"
	AcceptIt  Doing = "accept"
	Sign      Doing = "sign"
)

// Stage is a stretch of the work, one length of the spine.
type Stage struct {
	ID    string `json:"id"`
	Title string `json:"title,omitempty"`
	Steps []Step `json:"steps,omitempty" maxItems:"80"`
	Visit *Again `json:"visit,omitempty"` // it comes later, outside "finished"
}

// Step is one thing to do.
type Step struct {
	ID       string     `json:"id"`
	Title    string     `json:"title,omitempty"`
	Does     Doing      `json:"does,omitempty"`
	Of       []string   `json:"of,omitempty" maxItems:"40"` // layers, or "layer.coat"
	Why      string     `json:"why,omitempty"`
	At       []Where    `json:"at,omitempty" maxItems:"20"` // dropped where the area has nothing of the kind
	OnlyIf   *Question  `json:"only_if,omitempty"`          // "no" drops it, recorded
	After    []Link     `json:"after,omitempty" maxItems:"12"`
	Asks     []Question `json:"asks,omitempty" maxItems:"40"`
	By       string     `json:"by,omitempty"` // "own", "other_trade" or "inspector"
	People   int        `json:"people,omitempty" minimum:"0" maximum:"20"`
	Licence  string     `json:"licence,omitempty"`
	Permit   string     `json:"permit,omitempty"`
	Again    *Again     `json:"again,omitempty"`
	In       string     `json:"in,omitempty"` // "option.choice"
	Never    []Never    `json:"never,omitempty" maxItems:"20"`
	Tools    []string   `json:"tools,omitempty" maxItems:"40"`
	Cautions []string   `json:"cautions,omitempty" maxItems:"40"`
	Face     string     `json:"face,omitempty"`  // of the base: what is asked before it
	First    string     `json:"first,omitempty"` // who or what goes first, in words
	Strokes  string     `json:"strokes,omitempty"`
	Coat     int        `json:"coat,omitempty"`                // which coat of the film it lays, or accepts
	Uses     []string   `json:"uses,omitempty" maxItems:"120"` // roles of the products it takes
	Mends    string     `json:"mends,omitempty"`               // the step whose window had shut, or that asks a state nobody found: it is there only then, and makes that good
	Missed   string     `json:"missed,omitempty"`              // by which time or state: "membrane.recoat_latest", "membrane.no_tack"
}

// Never is a thing not to do, with its reason.
type Never struct {
	Line   string `json:"line"`
	Reason string `json:"reason"`
}

// Link is a wait of one step for another step or a layer.
type Link struct {
	Step      string   `json:"step,omitempty"`
	Layer     string   `json:"layer,omitempty"`  // the last step that lays it
	Anchor    string   `json:"anchor,omitempty"` // one of Anchors; "": the least counts from the end, the latest from the beginning
	Per       string   `json:"per,omitempty"`    // "place", by itself, or "all": from the last
	Least     *Figure  `json:"least,omitempty"`
	Latest    *Figure  `json:"latest,omitempty"`
	States    []string `json:"states,omitempty" maxItems:"12"` // a person confirms them: the clock alone releases nothing
	Otherwise string   `json:"otherwise,omitempty"`            // what is done where it was missed
	In        string   `json:"in,omitempty"`
}

// Question is asked before a step, or of it.
type Question struct {
	ID    string  `json:"id"`
	Line  string  `json:"line"`
	Kind  string  `json:"kind,omitempty"` // "tick", "number", "choice" or "photo"; "": tick
	Unit  string  `json:"unit,omitempty"`
	Least float64 `json:"least,omitempty"`
	Most  float64 `json:"most,omitempty"` // 0: no upper end

	Choices []string `json:"choices,omitempty" maxItems:"20"`

	NA   bool   `json:"na,omitempty"`   // "not here" is an answer
	When string `json:"when,omitempty"` // "before" or "after"; "old_coating": only where the survey found one
}

// Again is a step that comes back.
type Again struct {
	Every *Figure `json:"every,omitempty"`
	State string  `json:"state,omitempty"`
	Until string  `json:"until,omitempty"`
}

// Proof is by what the whole is shown to be tight.
type Proof struct {
	Kind   string  `json:"kind"` // one of Proofs
	Where  []Where `json:"where,omitempty" maxItems:"20"`
	Reason string  `json:"reason,omitempty"` // why there is none
}

// Remedy makes good what was missed; it is the product's.
type Remedy struct {
	Of     string `json:"of"`     // key of a product
	Missed string `json:"missed"` // a latest time, or a state that a link asks for
	Say    string `json:"say"`
	Steps  []Step `json:"steps,omitempty" maxItems:"20"`
}

// Edit is a change of the order by hand.
type Edit struct {
	Does   string `json:"does"`             // "move", "add", "drop", "link" or "unlink"
	Step   string `json:"step"`             // that is moved, dropped or linked; of an added one its id
	Before string `json:"before,omitempty"` // the step it goes before; "": at the end
	Stage  string `json:"stage,omitempty"`  // it is added to, or moved into
	Add    *Step  `json:"add,omitempty"`
	Link   *Link  `json:"link,omitempty"`
	Reason string `json:"reason,omitempty"` // asked where a hold, a base check or a proof is moved or dropped
	Person string `json:"person,omitempty"`
}

// What words of a system may be.
var (
	Places     = []string{"field", "joints", "fittings", "edges", "corners", "spots", "all"}
	Targets    = []string{"wft_mm", "dft_mm", "kg_m2", "L_m2", "m2_L", "m2_kg", "bead_mm", "fillet_leg", "fillet_radius", "pieces", "strip", "fall", "surplus_percent", "share_percent", "covered", "until_it_runs"}
	Faces      = []string{"dry", "damp", "ssd", "wetted"}
	Ons        = []string{"wet", "firm", "cured"}
	Strokes    = []string{"one_way", "crossed", "any"}
	Hows       = []string{"laid_in", "strewn", "mixed_in"}
	AcceptedBy = []string{"comb", "consumption", "dry_film", "wetted_through", "look"}
	Anchors    = []string{"end", "start", "state"}
	Proofs     = []string{"water", "spray", "bays", "film", "look", "none"}
	Weathers   = []string{"rain", "frost", "sun", "wind"}
	doings     = []Doing{Survey, Plan, Prepare, Check, Cut, Wet, Place, Lay, Embed, Mask, Unmask, Mist, Wait, PlanTest, Fill, Test, SprayTest, Drain, Rinse, Protect, Unprotect, Milestone, AcceptIt, Sign}
)

// Hold tells whether work stops at the step until someone signs.
func (s Step) Hold() bool { return s.Does == AcceptIt || s.Does == Sign }

// Proves tells whether the step belongs to the proof.
func (s Step) Proves() bool {
	return slices.Contains([]Doing{PlanTest, Fill, Test, SprayTest}, s.Does)
}

// Coats tells whether the step lays a coat of the film.
func (s Step) Coats() bool { return s.Coat > 0 && (s.Does == Lay || s.Does == Embed) }

// Lays tells whether the step lays what makes the area tight: the film, or what is bedded into it.
func (s Step) Lays() bool { return s.Does == Place || s.Coats() }

// Said tells whether a person says of the step that it is done.
func (s Step) Said() bool {
	return !s.Hold() && !s.Lays() && !s.Proves() && s.Does != Survey && s.Does != Plan && s.Does != Milestone
}

// WayOf is how the system works in one matter everywhere; "" where it says nothing.
func (s System) WayOf(school string) string {
	if len(s.Zones) > 0 {
		s.Ways = s.Zones[0].Ways
	}
	for _, w := range s.Ways {
		if w.School == school && w.Where == nil {
			return w.Way
		}
	}
	return ""
}

// ProductOf finds a product by the system's name for it.
func (s System) ProductOf(key string) (Product, bool) {
	i := slices.IndexFunc(s.Products, func(p Product) bool { return p.Key == key })
	if i < 0 {
		return Product{}, false
	}
	return s.Products[i], true
}

// LayerOf finds a layer by its id, or by "layer.coat".
func (s System) LayerOf(id string) (Layer, bool) {
	id, _, _ = strings.Cut(id, ".")
	i := slices.IndexFunc(s.Layers, func(l Layer) bool { return l.ID == id })
	if i < 0 {
		return Layer{}, false
	}
	return s.Layers[i], true
}

// Lays tells whether a layer lays a product, or carries it.
func (l Layer) Lays(key string) bool {
	return l.Product == key || slices.ContainsFunc(l.Carries, func(c Carries) bool { return c.Product == key })
}

// Seams tells whether a layer goes over the seams between strips.
func (l Layer) Seams() bool {
	return slices.ContainsFunc(l.Where, func(w Where) bool { return w.On == "joints" && slices.Contains(w.Joints, "seam") })
}

// FieldLayers are the layers whose coats make it tight, from the base up.
func (s System) FieldLayers() (list []Layer) {
	later := s.laterLayers()
	for _, l := range s.Layers {
		if s.stageOf(l) == inField && !slices.Contains(later, l.ID) {
			list = append(list, l)
		}
	}
	return list
}
