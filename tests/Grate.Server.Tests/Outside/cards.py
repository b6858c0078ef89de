"""Reads a vCard or an iCalendar file from standard input with python3-vobject, and writes what it found as JSON."""
import json
import sys

import vobject

found = vobject.readOne(sys.stdin.read())
print(json.dumps({name: [[line.group or "", line.value if isinstance(line.value, (str, list)) else str(line.value)] for line in lines]
                  for part in ([found] + list(found.components())) for name, lines in part.contents.items()
                  if all(hasattr(line, "value") for line in lines)}))
