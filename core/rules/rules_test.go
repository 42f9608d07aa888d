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
	for _, name := range []string{"waste", "least_share", "readings_per_m2", "weigh", "walk", "crew_rate", "start_margin", "test_depth", "test_hours", "test_tolerance", "test_interval"} {
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
