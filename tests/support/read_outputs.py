"""Compares what was written with strangers' texts in it with what is written without them, by readers that the
product does not use: no element, block, formula, row or line more. FOLDER/<case>/{with,without}/<output>.
Status 1, and a line for each difference, when there is one."""

import csv
import html.parser
import io
import json
import pathlib
import re
import sys
import xml.etree.ElementTree

import ezdxf

# Control characters, line ends of Unicode and marks of direction.
ORDERS = re.compile("[\x00-\x08\x0b-\x1f\x7f-\x9f\u061c\u200b\u200e\u200f\u2028-\u202e\u2060-\u206f\ufeff]")


class Elements(html.parser.HTMLParser):
    def __init__(self):
        super().__init__(convert_charrefs=True)
        self.seen = []

    def handle_starttag(self, tag, attributes):
        self.seen.append((tag, tuple(name for name, _ in attributes)))

    def handle_endtag(self, tag):
        self.seen.append("/" + tag)

    def handle_comment(self, data):
        self.seen.append("comment")

    def handle_decl(self, decl):
        self.seen.append("declaration")


def of_html(text):
    elements = Elements()
    elements.feed(text)
    elements.close()
    return elements.seen


def of_svg(text):
    return [(e.tag, tuple(sorted(e.attrib))) for e in xml.etree.ElementTree.fromstring(text).iter()]


def of_program(text):
    blocks = []
    for line in text.split("\n"):
        if line.startswith("("):
            if not re.fullmatch(r"\([ -'*-:<-Z^-z|~]*\)", line):
                blocks.append("no comment: " + line)
            elif re.match(r"\(\s*(MSG|DEBUG|PRINT|LOG|PROBE)", line):
                blocks.append("an order in a comment: " + line)
            else:
                blocks.append("(")
        else:
            blocks.append(line)
    return blocks


def of_table(text):
    rows = []
    for row in csv.reader(io.StringIO(text, newline="")):
        rows.append(len(row))
        for cell in row:
            if re.match(r"[=+@\t\r]|-.*[^-0-9.eE+]", cell) or "\n" in cell:
                rows.append("formula: " + cell)
    return rows


def of_text(text):
    return [line if not line.startswith("#") else "#" for line in text.split("\n")]


def of_json(text):
    def shape(value):
        if isinstance(value, dict):
            # A name that no file can have is noticed as such.
            return sorted(str(shape(inside)) for name, inside in value.items() if name != "warnings")
        return [shape(inside) for inside in value] if isinstance(value, list) else type(value).__name__

    return shape(json.loads(text))


def of_drawing(bytes_):
    drawing = ezdxf.read(io.StringIO(bytes_.decode("cp1252")))
    found = sorted((e.dxftype(), e.dxf.layer) for e in drawing.modelspace())
    return found, len(drawing.audit().errors), len(list(drawing.layers)), len(drawing.blocks)


READERS = {".html": of_html, ".svg": of_svg, ".nc": of_program, ".csv": of_table, ".txt": of_text, ".json": of_json}
# Each of these costs a reader's start; one text of each kind stands for the fields that lead to it.
seen_drawings = {}


def read(path):
    if path.suffix == ".dxf":
        data = path.read_bytes()
        if data not in seen_drawings:
            seen_drawings[data] = of_drawing(data)
        return seen_drawings[data], ""
    text = path.read_bytes().decode("utf-8")
    orders = ORDERS.search(text)
    reader = of_program if path.name.startswith("rotary") else READERS[path.suffix]
    return reader(text), orders


def main():
    differences = compared = 0
    for case in sorted(pathlib.Path(sys.argv[1]).iterdir()):
        for told in sorted((case / "with").glob("*")) if (case / "with").is_dir() else []:
            without = case / "without" / told.name
            if not without.exists():
                continue
            compared += 1
            (shape, orders), (plain, _) = read(told), read(without)
            if shape != plain or orders:
                differences += 1
                print(case.name, told.name, "orders in it" if orders else "another structure", str(shape)[:300])
    print(compared, "compared")
    sys.exit(1 if differences or not compared else 0)


main()
