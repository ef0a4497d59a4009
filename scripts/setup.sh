#!/usr/bin/env bash
# Sets up .venv with the pinned packages. On Debian and Ubuntu it also installs the system libraries that Qt needs, if
# it may; otherwise it names the exact command. Run again at any time: what is there already is left alone.
set -euo pipefail
cd "$(dirname "$0")/.."

apt_install() {
    if ! command -v apt-get >/dev/null; then
        return 1
    fi
    local run=(apt-get)
    if [ "$(id -u)" != 0 ]; then
        sudo -n true 2>/dev/null || return 1
        run=(sudo -n apt-get)
    fi
    "${run[@]}" install -y -q "$@" >/dev/null 2>&1 || { "${run[@]}" update -q >/dev/null 2>&1 && "${run[@]}" install -y -q "$@" >/dev/null; }
}

python=""
for candidate in python3.13 python3.12 python3.11 python3; do
    if "$candidate" -c 'import sys; sys.exit(not (3, 11) <= sys.version_info < (3, 14))' 2>/dev/null; then
        python=$candidate
        break
    fi
done
if [ -z "$python" ]; then
    echo "Wise Compass needs Python 3.11, 3.12 or 3.13 (Debian 12, Ubuntu 24.04: apt-get install python3)" >&2
    exit 1
fi

if [ ! -x .venv/bin/python ]; then
    if ! "$python" -c 'import ensurepip' 2>/dev/null; then
        version=$("$python" -c 'import sys; print(f"python{sys.version_info[0]}.{sys.version_info[1]}-venv")')
        apt_install "$version" || apt_install python3-venv || {
            echo "Python cannot make a virtual environment here: apt-get install $version" >&2
            exit 1
        }
    fi
    "$python" -m venv .venv
fi

stamp=.venv/.wise-compass-lock
if ! cmp -s requirements.lock "$stamp"; then
    .venv/bin/python -m pip install -q --disable-pip-version-check -r requirements.lock
    .venv/bin/python -m pip install -q --disable-pip-version-check --no-deps --no-build-isolation -e .
    cp requirements.lock "$stamp"
fi

.venv/bin/python -m compileall -q wisecompass

libraries="libegl1 libgl1 libxkbcommon0 libxkbcommon-x11-0 libxcb-cursor0 libxcb-icccm4 libxcb-keysyms1 libxcb-shape0 libdbus-1-3 libfontconfig1 libglib2.0-0"
plugins=$(.venv/bin/python -c 'import PySide6, pathlib; print(pathlib.Path(PySide6.__file__).parent / "Qt/plugins/platforms/libqxcb.so")')
if ldd "$plugins" 2>/dev/null | grep -q 'not found' || ! QT_QPA_PLATFORM=offscreen .venv/bin/python -c 'from PySide6.QtWidgets import QApplication; QApplication([])' 2>/dev/null; then
    # shellcheck disable=SC2086
    if ! apt_install $libraries; then
        echo "Qt misses system libraries here. As root: apt-get install $libraries" >&2
    fi
fi
if [ "${1:-}" = test ]; then
    if ! command -v Xvfb >/dev/null; then
        apt_install xvfb || echo "No Xvfb: the real-window test is skipped (as root: apt-get install xvfb)" >&2
    fi
    validators="desktop-file-utils appstream mandoc libxml2-utils shared-mime-info"
    for each in desktop-file-validate appstreamcli mandoc xmllint update-mime-database; do
        if ! command -v "$each" >/dev/null; then
            # shellcheck disable=SC2086
            apt_install $validators || echo "No validators: what the desktop reads is not checked (as root: apt-get install $validators)" >&2
            break
        fi
    done
fi
