"""What the forms of Prove send."""

from typing import Annotated, Literal

from fastapi import Form

TriedKind = Literal["functions", "loupe", "meeting"]
ItemName = Annotated[str, Form(pattern=r"^[A-Za-z0-9_-]{0,60}$")]
SaidVerdict = Annotated[Literal["passed", "failed"], Form()]
ShortSaid = Annotated[str, Form(max_length=200)]
