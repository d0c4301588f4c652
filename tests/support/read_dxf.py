"""Reads a DXF with a library that the product does not use, and tells what is in it as JSON."""

import json
import sys

import ezdxf

drawing = ezdxf.readfile(sys.argv[1])
space = drawing.modelspace()
ends = [p for line in space.query('LINE[layer=="PART"]') for p in (line.dxf.start, line.dxf.end)]
print(json.dumps({
    "errors": len(drawing.audit().errors),
    "unit": drawing.header.get("$INSUNITS"),
    "circles": [{"x": c.dxf.center.x, "y": c.dxf.center.y, "radius": c.dxf.radius, "layer": c.dxf.layer}
                for c in space.query("CIRCLE")],
    "texts": [{"text": t.plain_text(), "layer": t.dxf.layer} for t in space.query("TEXT")],
    "part_box": [min(p.x for p in ends), min(p.y for p in ends), max(p.x for p in ends), max(p.y for p in ends)],
}))
