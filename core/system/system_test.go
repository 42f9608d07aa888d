package system_test

import (
	"testing"

	"dusha/core/system"
)

func TestShippedSystemsCanBeBuilt(t *testing.T) {
	for _, s := range system.Samples() {
		if err := s.Check(); err != nil {
			t.Errorf("%s: %v", s.ID, err)
		}
		o, _ := system.MakeOrder(s, nil)
		for _, st := range o.Stages {
			for _, step := range st.Steps {
				t.Log(s.ID, st.ID, step.ID, step.Title, step.Does, step.Of, len(step.After))
			}
		}
	}
}
