#!/usr/bin/env python3
"""Fails when a module of src/ includes what its row of docs/architecture.md does not allow."""
import pathlib
import re
import sys

STD = set("""algorithm any array atomic bit cassert cctype cerrno cfloat charconv chrono cmath compare concepts condition_variable
cstddef cstdint cstdio cstdlib cstring ctime deque exception filesystem format fstream functional future initializer_list iomanip
iosfwd iostream istream iterator limits list locale map memory mutex new numbers numeric optional ostream queue random
ranges ratio regex set shared_mutex span sstream stack stdexcept stop_token string string_view system_error thread tuple
type_traits typeindex typeinfo unordered_map unordered_set utility valarray variant vector""".split())
COMMON = ("nlohmann/", "tl/")
PICTURES = ("libavformat/", "libavcodec/", "libavutil/", "libswresample/", "libswscale/", "libyuv/")
POSIX = ("arpa/inet.h", "fcntl.h", "netdb.h", "sys/socket.h", "termios.h", "unistd.h")
# module: (modules it may include, further include patterns)
RULES = {
    "core": (set(), [r"Eigen/.*", r"fcntl\.h", r"sys/file\.h", r"unistd\.h"]),  # files flushed and locked, threads that give way
    "media": ({"core"}, [r"unistd\.h", r"sys/mman\.h", r"immintrin\.h"]),
    "vision": ({"core", "media"}, [r"xnnpack\.h", r"opencv2/(core|imgproc|video/tracking)\.hpp"]),
    "sim": ({"core", "media"}, [r"Eigen/.*", "GUI", "POSIX"]),
    "store": ({"core"}, ["BASE", "QTemporaryDir", "QStandardPaths", r"QSql\w*"]),
    "look": ({"core", "media"}, ["GUI"]),
    "report": ({"core", "look", "media"}, ["GUI", r"libical/ical\.h"]),
    "demo": ({"core", "media", "sim", "store"}, []),
    "cli": ({"core", "media", "vision", "sim", "store", "look", "report", "demo"}, ["GUI"]),
    "app": ({"core", "media", "vision", "store", "look", "report", "sim", "demo"}, [r"Q\w+", r"qcustomplot\.h"]),
}
# folder of a module: folders of the same module it may include
FOLDERS = {
    "core": {
        "base": set(),
        "scene": {"base"},
        "measure": {"base", "scene"},
        "pack": {"base", "scene", "measure"},
        "read": {"base", "scene", "measure", "pack"},
        "detect": {"base", "scene", "measure", "pack"},
        "judge": {"base", "scene", "measure", "pack", "read"},
        "drawing": {"base", "scene", "measure", "pack", "read"},
        "compare": {"base", "scene", "measure", "pack", "read"},
        "plan": {"base", "scene", "measure", "pack", "read", "judge", "compare"},
        "match": {"base", "pack"},
        "flight": {"base", "pack", "compare"},
    },
    "app": {
        "workspace": set(),
        "shell": {"workspace"},
        "tools": {"shell", "workspace"},
        "film": {"shell", "tools", "workspace"},
        "bench": {"film", "shell", "tools", "workspace"},
        "roster": {"film", "shell", "workspace"},
        "pair": {"bench", "film", "shell", "tools", "workspace"},
        "show": {"bench", "film", "shell", "tools", "workspace"},
        "plan": {"bench", "film", "shell", "tools", "workspace"},
        "match": {"film", "shell", "tools", "workspace"},
        "flight": {"bench", "film", "shell", "tools", "workspace"},
        "live": {"film", "shell", "workspace"},
        "packs": {"shell", "workspace"},
        "window": {"bench", "film", "flight", "live", "match", "packs", "pair", "plan", "roster", "shell", "show", "tools", "workspace"},
    },
}
WIDGETS = re.compile(r"Q(Widget|Application|Label|\w*Button|\w*Layout|\w*Box|\w*View|Frame|MainWindow|Dialog|FileDialog|Menu|Action|LineEdit|Shortcut|Splitter|ToolTip|ScrollArea|Sql\w*|Svg\w*)$")
GUI = re.compile(r"Q[A-Z]\w*$")
BASE = re.compile(r"Q(Crypto\w*|Date|DateTime|Dir|DirIterator|File|FileInfo|String|StringList|Url|Uuid|Variant|ByteArray|LockFile|SysInfo|CoreApplication)$")


def allowed(module, include, quoted):
    uses, extra = RULES[module]
    if include in STD or include.startswith(COMMON):
        return True
    if include.startswith(PICTURES):
        return module == "media"
    head = include.split("/")[0]
    if head in RULES:
        return quoted and (head == module or head in uses)
    for rule in extra:
        if rule == "GUI":
            if GUI.match(include) and not WIDGETS.match(include):
                return True
        elif rule == "POSIX":
            if include in POSIX:
                return True
        elif rule == "BASE":
            if BASE.match(include):
                return True
        elif re.fullmatch(rule, include):
            return True
    return False


def allowed_folder(path, include):
    """Whether a file of a module's folder may include another folder of the same module. Both relative to src/."""
    module, *rest = pathlib.PurePath(path).parts
    target = pathlib.PurePath(include).parts
    folders = FOLDERS.get(module, {})
    if len(rest) < 2 or len(target) < 3 or target[0] != module or rest[0] == target[1]:
        return True
    return rest[0] in folders and target[1] in folders[rest[0]]


def mistakes(root):
    for path in sorted((root / "src").rglob("*")):
        if path.suffix not in (".h", ".cpp"):
            continue
        module = path.relative_to(root / "src").parts[0]
        for number, line in enumerate(path.read_text(encoding="utf-8").splitlines(), 1):
            found = re.match(r'\s*#\s*include\s*([<"])([^>"]+)[>"]', line)
            if not found:
                continue
            if module not in RULES:
                yield f"{path.relative_to(root)}:{number}: the folder {module} has no row in tests/check_borders.py"
            elif not allowed_folder(path.relative_to(root / "src"), found.group(2)):
                yield f"{path.relative_to(root)}:{number}: this folder may not include {found.group(2)}"
            elif not allowed(module, found.group(2), found.group(1) == '"'):
                yield f"{path.relative_to(root)}:{number}: {module} may not include {found.group(2)}"


def self_test():
    """The check has to be able to fail."""
    refused = [("core", "QString", False), ("core", "media/film.h", True), ("media", "QImage", False), ("sim", "QLabel", False),
               ("report", "store/library.h", True), ("store", "QWidget", False), ("cli", "app/main_window.h", True),
               ("core", "libavcodec/avcodec.h", False), ("look", "report/page.h", True), ("media", "sys/socket.h", False)]
    accepted = [("core", "vector", False), ("core", "core/time.h", True), ("media", "libavcodec/avcodec.h", False),
                ("sim", "QPainter", False), ("app", "QWidget", False), ("store", "QSqlQuery", False)]
    folders = [("core/base/time.h", "core/pack/pack.h", False), ("core/judge/review.cpp", "core/read/reading.h", True),
               ("app/roster/roster_view.cpp", "app/bench/bench_view.h", False), ("core/base/time.h", "core/base/index.h", True),
               ("core/new/thing.h", "core/base/index.h", False)]
    wrong = [c for c in refused if allowed(*c)] + [c for c in accepted if not allowed(*c)]
    wrong += [c for c in folders if allowed_folder(c[0], c[1]) != c[2]]
    for c in wrong:
        print("the border check is wrong about", c)
    return not wrong


if __name__ == "__main__":
    if sys.argv[1] == "--self-test":
        sys.exit(0 if self_test() else 1)
    found = list(mistakes(pathlib.Path(sys.argv[1])))
    print("\n".join(found) or "every include lies within its module's borders")
    sys.exit(1 if found else 0)
