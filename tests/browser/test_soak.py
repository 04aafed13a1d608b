"""The soak, short; `make soak` runs it for ten minutes and says what it saw."""

import os
from pathlib import Path

from soak import Soak

SECONDS = float(os.environ.get("OAK_LEVER_SOAK", "12"))
A_KILL_EVERY_S = 12


def test_nothing_acknowledged_is_lost_and_nothing_fails(tmp_path: Path) -> None:
    soak = Soak(tmp_path / "data")
    told = soak.run(SECONDS, max(1, int(SECONDS / A_KILL_EVERY_S)))
    print(
        f"\n{SECONDS:.0f} s, {told.kills} kills: {told.edits()} edits acknowledged; answers {dict(told.answers)}; "
        f"{len(told.drags_ms)} steps of a drag, half under {told.drag_ms(0.5):.0f} ms, "
        f"95 of 100 under {told.drag_ms(0.95):.0f} ms, the longest {told.drag_ms(1):.0f} ms"
    )
    assert told.failures == []
    assert told.edits() > 0
    assert told.drags_ms
    soak.check(tmp_path / "elsewhere")
