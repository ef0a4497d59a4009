"""Profiles of plotters and cutters: how a machine takes its pen up and down, how far it reaches, what its program begins and
ends with. A profile is a small JSON file; what it leaves out is as in ``Profile``."""

from __future__ import annotations

from dataclasses import asdict, dataclass, field
from pathlib import Path
from typing import Any, ClassVar, Literal

from wisecompass.arithmetic.expression import quoted
from wisecompass.drafting.errors import BadDocument
from wisecompass.drafting.pens import Pen
from wisecompass.folio import files

LARGEST_PROFILE = 256 * 1024


@dataclass(frozen=True)
class Profile:
    """A machine and the dialect of ISO 6983 that it reads. Lengths are mm, speeds mm a minute, whatever its ``units``."""

    name: str = "simulated plotter"
    units: Literal["mm", "inch"] = "mm"
    pen: Literal["Z", "M"] = "Z"
    """Whether the pen goes up and down by Z, or by the lines ``up`` and ``down``."""
    up_z: float = 3.0
    down_z: float = 0.0
    up: tuple[str, ...] = ("M5",)
    down: tuple[str, ...] = ("M3",)
    draw_speed: float = 3000.0
    drop_speed: float = 600.0
    """How fast the pen is lowered along Z."""
    speeds: dict[str, float] = field(default_factory=dict)
    """Speeds of pens that have one of their own, by name."""
    arcs: bool = True
    """Whether the machine knows G2 and G3; else arcs are drawn in chords."""
    chord: float = 0.02
    """How far a chord may be from its arc."""
    width: float = 1200.0
    height: float = 900.0
    """What the machine reaches to the right and up from its origin."""
    shift_x: float = 0.0
    shift_y: float = 0.0
    """Where the low left corner of the paper lies."""
    decimals: int = 3
    begin: tuple[str, ...] = ()
    end: tuple[str, ...] = ("M2",)
    change: tuple[str, ...] = ("M0",)
    """Between two pens; {pen} stands for the next one's name, {n} for its number."""
    remarks: Literal["( )", ";", "none"] = "( )"
    dashed: bool = True
    """Whether broken lines are drawn in dashes; a folding machine scores them whole."""
    checked: bool = True
    """Whether lines are sent with a number and a sum, by which a garbled one is told."""
    baud: int = 115200
    buffer: int = 8
    """So many lines the machine takes before the first of them is done."""

    __pydantic_config__: ClassVar[dict[str, object]] = {"extra": "forbid", "str_max_length": 200}


SIMULATED = Profile()

NAMED: dict[str, Profile] = {
    "simulated plotter": SIMULATED,
    "pen by M3 and M5": Profile("pen by M3 and M5", pen="M", checked=False),
    "cutter, fold lines whole": Profile("cutter, fold lines whole", dashed=False, draw_speed=1200.0),
    "inches, no arcs": Profile("inches, no arcs", units="inch", arcs=False, decimals=4, remarks=";"),
}
"""Profiles that come with the program, to begin from."""


def read_profile(path: Path) -> Profile:
    """A profile from its file.

    Raises:
        BadDocument: it cannot be read, has an unknown key, or a value that no machine has.
    """
    from pydantic import TypeAdapter, ValidationError

    name = quoted(path.name)
    data = files.parse_json(files.read_text(path, LARGEST_PROFILE, "a profile"), name)
    if not isinstance(data, dict):
        raise BadDocument(f'{name} is no profile: it needs names with values, such as "pen": "Z"')
    known = list(asdict(SIMULATED))
    for key in data:
        if key not in known:
            raise BadDocument(f"{name}: “{quoted(key)}” is not known in a profile; it has {', '.join(known)}")
    try:
        profile: Profile = TypeAdapter(Profile).validate_python(data)
    except ValidationError as reason:
        first = reason.errors()[0]
        where = ".".join(map(str, first["loc"]))
        raise BadDocument(f"{name}, {where}: {first['msg'][:1].lower()}{first['msg'][1:]}") from None
    _require_sound(profile, name)
    return profile


LIMITS: dict[str, tuple[float, float]] = {
    "draw_speed": (1, 1e6),
    "drop_speed": (1, 1e6),
    "chord": (0.001, 1),
    "width": (1, 1e5),
    "height": (1, 1e5),
    "shift_x": (-1e5, 1e5),
    "shift_y": (-1e5, 1e5),
    "up_z": (-1000, 1000),
    "down_z": (-1000, 1000),
    "decimals": (1, 6),
    "buffer": (1, 1000),
    "baud": (50, 4_000_000),
}
"""Least and most of the numbers of a profile."""


def _require_sound(profile: Profile, name: str) -> None:
    """Refuse a profile that no machine has.

    Raises:
        BadDocument: with the value, its limits and the nearest that works.
    """
    for key, (low, high) in LIMITS.items():
        value = getattr(profile, key)
        if not low <= value <= high:
            nearest = min(max(value, low), high)
            raise BadDocument(
                f"{name}: {key} {value:g} is not from {low:g} to {high:g}; the nearest that works is {nearest:g}"
            )
    for pen, speed in profile.speeds.items():
        if pen not in tuple(Pen):
            raise BadDocument(f"{name}: no pen is called “{quoted(pen)}”; there are {', '.join(Pen)}")
        if not 1 <= speed <= 1e6:
            raise BadDocument(f"{name}: the speed {speed:g} of {pen} is not from 1 to 1000000 mm a minute")
    if profile.pen == "Z" and profile.up_z == profile.down_z:
        raise BadDocument(f"{name}: up_z and down_z are both {profile.up_z:g}: the pen would never be lifted")
    if profile.pen == "M" and (not profile.up or not profile.down or profile.up == profile.down):
        raise BadDocument(f"{name}: “up” and “down” must be lines that differ, such as M5 and M3")


def profile_json(profile: Profile) -> dict[str, Any]:
    """A profile as the JSON of its file."""
    return asdict(profile)


def named_profile(name: str) -> Profile:
    """A profile that comes with the program, or from a file.

    Raises:
        BadDocument: neither is there; see ``read_profile``.
    """
    if name in NAMED:
        return NAMED[name]
    path = Path(name)
    if path.suffix != ".json":
        raise BadDocument(f"no profile is called “{quoted(name)}”; there are {', '.join(NAMED)}, or a file NAME.json")
    return read_profile(path)
