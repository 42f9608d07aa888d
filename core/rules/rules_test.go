package rules_test

import (
	"strings"
	"testing"

	"dusha/core/rules"
)

func TestTheGenericProfileStatesWhatIsAskedOfIt(t *testing.T) {
	p := rules.Generic()
	if !strings.Contains(p.Note, "local code decides") {
		t.Errorf("the profile notes %q, and not that the local code decides", p.Note)
	}
	for _, name := range []string{"waste", "least_share", "readings_per_m2", "weigh", "walk", "crew_rate", "start_margin", "test_depth", "test_hours", "test_tolerance", "test_soak", "test_interval"} {
		f, err := p.Number(name)
		if err != nil || !(f.Value > 0) || f.Unit == "" || f.Source == nil || f.Source.Says == "" {
			t.Errorf("%s: %+v, %v", name, f, err)
		}
	}
	for _, texture := range rules.Textures {
		if _, err := p.Number("texture_" + texture); err != nil {
			t.Error(err)
		}
	}
}

func TestALimitThatAProfileLacksIsTheGenericOne(t *testing.T) {
	own := rules.Generic()
	own.ID = "lakeside"
	said := own.Numbers["test_depth"]
	said.Value = 75
	own.Numbers["test_depth"] = said
	delete(own.Numbers, "walk")
	if f := own.Limit("test_depth"); f.Value != 75 || f.Source.Ref != "lakeside" {
		t.Errorf("its own depth: %+v", f)
	}
	if f, generic := own.Limit("walk"), rules.Generic(); f.Value != generic.Numbers["walk"].Value || f.Source.Ref != generic.ID {
		t.Errorf("a walk it does not state: %+v", f)
	}
	if _, err := own.Number("walk"); err == nil {
		t.Error("a number that is not stated is given")
	}
}

func TestEveryShippedProfileSaysThatTheLocalCodeDecides(t *testing.T) {
	shipped := rules.Shipped()
	if len(shipped) != 3 {
		t.Fatalf("%d profiles ship, want three", len(shipped))
	}
	for _, p := range shipped {
		if !strings.Contains(p.Note, "local code decides") {
			t.Errorf("%s notes %q", p.Name, p.Note)
		}
		if err := p.Check("profile"); err != nil {
			t.Errorf("%s: %v", p.Name, err)
		}
		for _, name := range rules.Order() {
			if said, is := p.Numbers[name]; !is || said.Says == "" {
				t.Errorf("%s does not state %s with its source", p.Name, name)
			}
		}
		if len(p.Numbers) != len(rules.Order()) {
			t.Errorf("%s states %d numbers, %d are listed", p.Name, len(p.Numbers), len(rules.Order()))
		}
	}
}

func TestAProfileOfOnesOwnNamesWhoSaysSo(t *testing.T) {
	base := rules.Generic()
	form, own := rules.Ask(base, "mine", map[string]string{"profile_name": "Lakeside", "numbers.upstand": "150"})
	if own != nil || form.Next() != "source" {
		t.Errorf("a number is changed and nobody says so: %+v, asked next %q", own, form.Next())
	}
	_, own = rules.Ask(base, "mine", map[string]string{"profile_name": "Lakeside", "numbers.upstand": "150", "source": "building office, letter"})
	if own == nil || own.Numbers["upstand"].Value != 150 || own.Numbers["upstand"].Says != "building office, letter" || own.From != base.ID {
		t.Fatalf("%+v", own)
	}
	if own.Numbers["waste"] != base.Numbers["waste"] {
		t.Errorf("a number that was left alone is %+v", own.Numbers["waste"])
	}
	if base.Numbers["upstand"].Value == 150 || rules.Generic().Numbers["upstand"].Value == 150 {
		t.Error("the generic profile was changed")
	}
	if err := own.Check("profile"); err != nil {
		t.Error(err)
	}
	if form, own := rules.Ask(base, "mine", map[string]string{"profile_name": "Lakeside", "numbers.waste": "140"}); own != nil || len(form.Faults()) == 0 {
		t.Error("waste of 140 % is taken")
	}
}

func TestAProfileThatCannotBeKept(t *testing.T) {
	for name, spoil := range map[string]func(*rules.Profile){
		"without a name":                func(p *rules.Profile) { p.Name = "" },
		"a number nobody asks for":      func(p *rules.Profile) { p.Numbers["luck"] = p.Numbers["waste"] },
		"a number in another unit":      func(p *rules.Profile) { s := p.Numbers["upstand"]; s.Unit = "h"; p.Numbers["upstand"] = s },
		"a number without its source":   func(p *rules.Profile) { s := p.Numbers["upstand"]; s.Says = ""; p.Numbers["upstand"] = s },
		"a number that cannot be right": func(p *rules.Profile) { s := p.Numbers["upstand"]; s.Value = -1; p.Numbers["upstand"] = s },
	} {
		p := rules.Generic()
		spoil(&p)
		if p.Check("profile") == nil {
			t.Errorf("%s is taken", name)
		}
	}
}
