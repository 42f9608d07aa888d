package ops

import (
	"slices"

	"dusha/core/fault"
	"dusha/core/sheet"
	"dusha/core/site"
	"dusha/core/system"
)

// Systems are the operations on systems: the library, the order of the work, what two revisions differ in, files.
func Systems() []Op {
	return []Op{
		Make("system.library", "The systems of a job, every revision: its own, then the samples that ship.", systemLibrary),
		Make("system.order", "Makes the order of the work of a system, and says what cannot be built or followed.", systemOrder),
		Make("system.revise", "Changes a system act by act, and says what comes of it and what cannot be followed.", systemRevise),
		Make("system.blank", "Begins a system from nothing: one coat of a sheet of the job.", systemBlank),
		Make("system.try", "Holds systems against an area before they are kept: quantities, steps, time and cost.", systemTry),
		Make("system.changes", "Says in what a later revision of a system differs from an earlier one.", systemChanges),
		Make("system.import", "Reads systems from JSON.", systemImport),
		Make("system.export", "Writes systems as JSON.", systemExport),
	}
}

type systemsOut struct {
	Systems []system.System `json:"systems"`
}

func systemLibrary(in Book) (systemsOut, error) { return systemsOut{in.site().Job().Revisions()}, nil }

type systemOrderIn struct {
	System system.System          `json:"system"`
	Sheets map[string]sheet.Sheet `json:"sheets,omitempty"` // printings in use, by the system's keys
}

type systemOrderOut struct {
	system.Order
	Ways map[string]string `json:"ways"` // how it is worked, by school
}

func systemOrder(in systemOrderIn) (systemOrderOut, error) {
	if err := in.System.Check(); err != nil {
		return systemOrderOut{}, err
	}
	order, err := system.MakeOrder(in.System, in.Sheets)
	order.AskBack(in.Sheets)
	return systemOrderOut{order, in.System.AllWays()}, err
}

type systemReviseIn struct {
	Book                 // whose printings its waits are read off
	System system.System `json:"system"`
	Acts   []system.Act  `json:"acts" maxItems:"200"`
	Taken  []string      `json:"taken,omitempty" maxItems:"500"` // names of the job's other systems
}

type systemReviseOut struct {
	system.Order
	Ways    map[string]string   `json:"ways"`    // how it is worked, by school
	System  system.System       `json:"system"`  // as it would be kept, but for its id
	Offered map[string][]string `json:"offered"` // ways that may be chosen, by school
	Fault   *fault.Fault        `json:"fault"`   // why it cannot be built or followed; null where it can
	Changes []system.Change     `json:"changes"`
	Tides   []system.Tide       `json:"tides"` // waits that say a time
}

func systemRevise(in systemReviseIn) (systemReviseOut, error) {
	out := systemReviseOut{Offered: system.ChosenWays(), Changes: []system.Change{}, Tides: []system.Tide{}}
	out.Order = system.Order{Stages: []system.Stage{}, Asked: []system.Asked{}}
	made, err := in.System.Revise(in.Acts)
	if out.System = made; err != nil {
		out.Fault = fault.Of(err)[0]
		return out, nil
	}
	out.Changes, out.Ways = system.Changes(in.System, made), made.AllWays()
	err = made.Check()
	if err == nil && slices.Contains(in.Taken, made.Name) {
		err = fault.At("name", "system.name_taken", "name", made.Name)
	}
	if err != nil {
		out.Fault = fault.Of(err)[0]
	}
	out.System = made.After(in.System)
	if made.Followed() == nil {
		out.Order, _ = system.MakeOrder(made, nil)
		out.Order.AskBack(nil)
		out.Tides = out.Order.Tides(in.site().PrintingsOf(made))
	}
	return out, nil
}

type systemBlankIn struct {
	Book
	Sheet string `json:"sheet"` // id of what makes it tight
}

type systemOut struct {
	System system.System `json:"system"`
}

func systemBlank(in systemBlankIn) (systemOut, error) {
	film, known := in.site().Job().Sheet(in.Sheet)
	if !known {
		return systemOut{}, fault.At("sheet", "sheet.unknown", "typed", fault.Short(in.Sheet))
	}
	blank, err := system.Blank(film)
	return systemOut{blank}, err
}

type systemTryIn struct {
	Book
	Area    string          `json:"area"`
	Systems []system.System `json:"systems" maxItems:"3"`
}

type systemTryOut struct {
	Trials []site.Trial `json:"trials"`
}

func systemTry(in systemTryIn) (systemTryOut, error) {
	trials, err := in.site().TrySystems(in.Area, in.Systems)
	return systemTryOut{trials}, err
}

type systemChangesIn struct {
	Before system.System `json:"before"`
	After  system.System `json:"after"`
}

type systemChangesOut struct {
	Changes []system.Change `json:"changes"`
}

func systemChanges(in systemChangesIn) (systemChangesOut, error) {
	return systemChangesOut{system.Changes(in.Before, in.After)}, nil
}

type systemImportIn struct {
	Text  string          `json:"text" maxLength:"5242881"`
	Known []system.System `json:"known,omitempty" maxItems:"500"`
}

func systemImport(in systemImportIn) (systemsOut, error) {
	list, err := system.Import(in.Text, in.Known)
	if list == nil {
		list = []system.System{}
	}
	return systemsOut{list}, err
}

func systemExport(in systemsOut) (textOut, error) {
	text, err := system.Export(in.Systems)
	return textOut{text}, err
}
