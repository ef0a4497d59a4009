"""Write the index of the catalogue: what is said of a problem before it is loaded. Run it when a problem's words change."""

from __future__ import annotations

import json
import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent.parent))

from wisecompass import catalogue
from wisecompass.catalogue import index


def main() -> None:
    entries = {each: index.described(catalogue.problem(each)) for each in catalogue.ids()}
    index.FILE.write_text(json.dumps(entries, indent=0, ensure_ascii=False) + "\n", encoding="utf-8")
    print(f"{index.FILE}: {len(entries)} problems")


if __name__ == "__main__":
    main()
