package wetarea_test

import (
	"testing"

	"dusha/core/wetarea"
)

func FuzzFiles(f *testing.F) {
	f.Add("csv", "0,0\n2000,0\n2000,1000\n0,1000\n")
	f.Add("csv", "x_m;y_m\n0;0\n2,4;0\n2,4;1,8\n")
	f.Add("rooms", "name,length,width,height\nA,2400,1800,2100\n")
	f.Add("dxf", "0\nSECTION\n2\nENTITIES\n0\nLWPOLYLINE\n70\n1\n10\n0\n20\n0\n10\n2000\n20\n0\n10\n2000\n20\n1000\n0\nENDSEC\n0\nEOF\n")
	f.Fuzz(func(t *testing.T, format, text string) {
		if format == "rooms" {
			rooms, err := wetarea.ReadRooms(text)
			if err == nil && len(rooms) == 0 {
				t.Fatal("no room and nothing said")
			}
			return
		}
		typed, err := wetarea.ReadOutline(format, text)
		if err != nil {
			return
		}
		if _, err := wetarea.Ask("room", typed); err != nil {
			t.Fatalf("an outline that was read cannot be asked on: %v", err)
		}
	})
}
