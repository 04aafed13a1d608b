"""The soak, short; `make soak` runs it for ten minutes and says what it saw."""

import os
from pathlib import Path

from soak import Soak, under

SECONDS = float(os.environ.get("OAK_LEVER_SOAK", "12"))
A_KILL_EVERY_S = 12
MOST_MB = 1000


def test_nothing_acknowledged_is_lost_and_nothing_fails(tmp_path: Path) -> None:
    soak = Soak(tmp_path / "data")
    told = soak.run(SECONDS, max(1, int(SECONDS / A_KILL_EVERY_S)))
    beside = under(told.drags_ms, 0.95) / under(told.alone_ms, 0.95)
    print(
        f"\n{SECONDS:.0f} s, {told.kills} kills: {told.edits()} edits acknowledged, {told.pressed} pressed in two "
        f"tabs; answers {dict(told.answers)}; a drag alone: {_times(told.alone_ms)}; beside all this: "
        f"{len(told.drags_ms)} steps, {_times(told.drags_ms)}, {beside:.1f} times as long as alone; "
        f"health asked {len(told.healths_ms)} times, {_times(told.healths_ms)}; at most {told.most_mb:.0f} MB"
    )
    assert told.failures == []
    assert told.edits() > 0
    assert told.alone_ms
    assert told.drags_ms
    assert told.pressed > 0
    assert told.healths_ms
    assert 0.0 < told.most_mb < MOST_MB
    soak.check(tmp_path / "elsewhere")


def _times(times_ms: list[float]) -> str:
    half, most, longest = (under(times_ms, share) for share in (0.5, 0.95, 1.0))
    return f"half under {half:.0f} ms, 95 of 100 under {most:.0f} ms, the longest {longest:.0f} ms"
