"""How a sweep was taken: at which plane, through what, how hung, what was near."""

from typing import Annotated, Literal, Self

from pydantic import BaseModel, Field, model_validator

from yielding_coil.documents.fields import LineLength, Payload, Words

Said = Annotated[Words, Field(max_length=120)]


class LineIn(Payload):
    """A length of cable between the plane and the antenna."""

    cable: Annotated[Words, Field(max_length=60)]
    length_m: LineLength


class Conditions(Payload):
    """What was so while it was swept; each in the words of who swept."""

    height: Said = ""
    hung: Said = ""
    near: Said = ""
    ground: Said = ""


# "matched" is the coax side of a match that was in place: what such a sweep shows is no antenna to be matched.
Plane = Literal["feedpoint", "line_end", "bench", "matched"]


class SetupIn(BaseModel):
    """Where the plane was, and the conditions."""

    plane: Plane = "feedpoint"
    line: LineIn | None = None
    conditions: Conditions = Conditions()

    @model_validator(mode="after")
    def _a_line_where_there_is_one(self) -> Self:
        if self.plane == "line_end" and self.line is None:
            raise ValueError("say through which cable, and how long it is")
        return self
