package api_test

import "github.com/danielgtaylor/huma/v2"

// nullLists finds where an answer holds null although its schema says list.
func nullLists(resolve func(string) *huma.Schema, s *huma.Schema, got any, path string) (found []string) {
	if s != nil && s.Ref != "" {
		s = resolve(s.Ref)
	}
	if s == nil {
		return nil
	}
	if s.Type == "array" && got == nil {
		return []string{path}
	}
	switch got := got.(type) {
	case map[string]any:
		for name, member := range s.Properties {
			if value, is := got[name]; is {
				found = append(found, nullLists(resolve, member, value, path+"."+name)...)
			}
		}
		for _, either := range s.AnyOf {
			found = append(found, nullLists(resolve, either, got, path)...)
		}
	case []any:
		for _, item := range got {
			found = append(found, nullLists(resolve, s.Items, item, path+"[]")...)
		}
	}
	return found
}
