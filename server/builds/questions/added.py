"""Parts and keep-outs that come into a design, of a size that suits it."""

from typing import Any

from builds.questions.asking import Document, Named, Payload, question, refusing
from oak_lever.api import added, design_data, design_from


class AdditionIn(Payload):
    """A design, and what of the register's additions is to come into it."""

    document: Document
    what: Named


class AddedOut(Payload):
    document: Document


@question("add", AddedOut, "hand")
def add(asked: AdditionIn) -> Any:
    with refusing("what"):
        return {"document": design_data(added(design_from(asked.document), asked.what))}
