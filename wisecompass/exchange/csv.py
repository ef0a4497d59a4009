"""CSV of points and findings."""

from __future__ import annotations

import csv as csv_module
import io

from wisecompass.drafting.solve import Certificate


def csv(certificate: Certificate) -> str:
    """Rows ``kind,name,value...``: a finding with value, unit, bound and closed form, a point with its coordinates."""
    buffer = io.StringIO()
    writer = csv_module.writer(buffer, lineterminator="\n")
    writer.writerow(["kind", "name", "value", "unit", "bound", "closed form"])
    for answer in certificate.answers:
        value = "" if answer.value is None else answer.value
        writer.writerow(["finding", answer.name, value, answer.kind.unit, answer.bound, answer.closed_form or ""])
    for name, coordinates in certificate.points.items():
        writer.writerow(["point", name, *coordinates])
    return buffer.getvalue()
