"""Which words name which quantity, by kind of part: the table of listing.md, in three languages.

Words are compared small, without accents, hyphens as gaps. A label without a path names something the part
has no field for: a figure beside it is left unread, and is never taken for another quantity.
"""

import re
from dataclasses import dataclass
from functools import cache

from marquetry.core.measuring.listing.result import Sure

DIAMETER = r"\bdiameters?\b|\bdia\b\.?|\bdurchmesser\b|\bdiametre\b|[ø⌀]"
THICKNESS = r"\bthickness(?:es)?\b|\bthk\b\.?|\bt\b(?=\s*[:=]?\s*\d)|\bthick\b|\bdicke\b|\bdick\b|\bstarke\b|\bepaisseur\b|\bepais(?:se)?\b|\bep\b\.?"
HEIGHT = r"\bheight\b|\bh\b(?=\s*[:=]?\s*\d)|\bhigh\b|\b(?:bau)?hohe\b|\bhauteur\b"
LENGTH = r"\blengths?\b|\blong\b|\blange[n]?\b|\blang\b|\blongueurs?\b"
INNER = (
    r"\b(?:inner|inside|internal) (?:diameter|dia\b\.?|[ø⌀])|\binnendurchmesser\b|\bdiametre interieur\b|\binner\b|\binside\b|\bid\b"
    r"|\binnen\b|\binterieur\b|[ø⌀] ?(?:int(?:erieur)?|innen|inner|inside|id)\b|\bint\b\.?"
)
OUTER = (
    r"\b(?:outer|outside|external) (?:diameter|dia\b\.?|[ø⌀])|\baussendurchmesser\b|\bausendurchmesser\b"
    r"|\bdiametre exterieur\b|\bouter\b|\boutside\b|\bod\b|\baus?sen\b|\bexterieur\b|[ø⌀] ?(?:ext(?:erieur)?|aus?sen|outer|outside|od)\b|\bext\b\.?"
)
AT_LUGS = r"\b(?:between|at) (?:the )?(?:lugs|lug end)\b|\b(?:am|zum|beim) (?:band)?anstos+\b|\baux cornes\b"
BETWEEN_LUGS = (
    rf"{AT_LUGS}|\blug width\b|\blug size\b|\bstrap width\b|\b(?:strap|band) size\b|\bband width\b|\blug distance\b"
    r"|\banstos+breite\b|\bbandanstos+\b|\bbreite (?:am|zum|beim) (?:band)?anstos+\b|\bbandbreite\b|\bstegbreite\b|\bentre ?cornes?\b"
    r"|\blargeur (?:entre|aux) (?:les )?cornes\b"
)
THREAD = r"\bthread(?: size)?\b|\btap(?: size)?\b|\bgewinde\b|\bfiletage\b|\btaraudage\b"
OTHER_PARTS = {
    "case": r"\bcases?\b(?! backs?\b)|\bgehause\b|\bboitiers?\b",
    "case_back": r"\bcase ?backs?\b|\bgehauseboden\b|\bboden\b|\bfonds?\b",
    "dial": r"\bdials?\b(?! spacers?\b)|\bzifferblatt(?:er)?\b|\bcadrans?\b",
    "crystal": r"\bcrystals?\b|\bglas+(?:es)?\b|\b(?:saphir|mineral|acryl)glas\b|\bverres?\b",
    "crown": r"\bcrowns?\b|\bkronen?\b|\bcouronnes?\b|\btubes?\b",
    "movement": r"\bmovements?\b(?! (?:holder|ring|retainer|spacer)s?\b)|\buhrwerke?\b|\bmouvements?\b|\bcalib(?:re|er)s?\b",
    "hands": r"\bhands\b|\bzeiger\b|\baiguilles\b",
    "stem": r"\bstems?\b|\bwelle\b|\btige\b",
    "bezel": r"\bbezels?\b(?! inserts?\b)|\blunetten?\b|\blunettes?\b",
    "strap": r"\bstraps?\b|\bbracelets?\b|\barmband(?:er)?\b",
    "": r"\bfeet\b|\bfoot\b|\bfus+e\b|\bpieds\b|\bwindows?\b|\bguichet\b|\bfenster\b|\bweight\b|\bgewicht\b|\bpoids\b"
    r"|\bwrists?\b|\bhandgelenk\b|\bpoignet\b",
}
"""What else a figure may be said of, by the kind that the words name."""


def others(kind: str) -> str:
    """Words for everything but the kind itself: a figure beside them is not the part's own."""
    return "|".join(pattern for key, pattern in OTHER_PARTS.items() if key != kind)


@dataclass(frozen=True, slots=True)
class Named:
    """Words that name a quantity: the path they stand for, what is added to the figure, how sure it is.

    `only_plausible`: words that mean other things as well, and this only by the figure's size.
    """

    pattern: re.Pattern[str]
    path: str = ""
    sure: Sure = "said"
    plus_mm: float = 0.0
    only_plausible: bool = False


def _named(
    path: str, pattern: str, sure: Sure = "said", plus_mm: float = 0.0, *, only_plausible: bool = False
) -> Named:
    return Named(re.compile(pattern), path, sure, plus_mm, only_plausible)


DIAL_ROOM_MM = 0.10
"""A case's bore is that much wider than the dial it is said to take."""

CASE = (
    _named(
        "diameter",
        r"\bcase (?:diameter|size|width)\b(?: (?:without|excluding|excl\.?|w/o) (?:the )?crown)?"
        r"|\b(?:width|diameter) (?:without|excluding|excl\.?|w/o) (?:the )?crown\b|\bgehausedurchmesser\b"
        r"|\b(?:durchmesser|breite) ohne krone\b|\b(?:diametre|largeur) (?:hors|sans) couronne\b|\bdiametre (?:du )?boitier\b",
    ),
    _named(
        "lug_to_lug",
        r"\blug (?:(?:to|2) )?lug\b(?: (?:length|distance))?|\bl2l\b|\bltl\b|\bl l\b|\blug tip to lug tip\b|\b(?:lange )?uber (?:die )?horner\b|\bhorn zu horn\b|\bcorne a corne\b",
    ),
    _named("lug_width", BETWEEN_LUGS),
    _named("", r"\blug holes?\b|\bdrilled lugs\b|\blug (?:thickness|height|length)\b"),
    _named(
        "lug_width",
        r"\blugs?\b|\bstraps?\b|\barmband(?:er)?\b|\bbracelets?\b",
        "likely",
        only_plausible=True,
    ),
    _named(
        "dial_bore",
        r"\bdial (?:size|opening|diameter)\b|\bzifferblatt(?:er|gros+e|durchmesser)?\b|\b(?:diametre|taille) (?:du )?cadran\b"
        r"|\bdials?\b|\bcadrans?\b",
        "likely",
        DIAL_ROOM_MM,
    ),
    _named(
        "",
        r"\bcrystal (?:size|diameter|thickness)\b|\b(?:case )?back (?:diameter|height|thickness)\b|\bcrown (?:diameter|size)\b",
    ),
    _named(
        "",
        rf"(?:{THICKNESS}|{HEIGHT})\s*[(,]?\s*(?:without|excluding|excl\.?|w/o|ohne|sans|hors) (?:the |das |le )?(?:crystal|glas|verre)\b",
    ),
    _named(
        "claimed_height",
        rf"(?:total |overall |case |gesamt)?(?:{THICKNESS}|{HEIGHT})(?:\s*[(,]?\s*(?:with|including|incl\.?|mit|avec|total|overall) ?(?:the |das |le )?(?:crystal|glas|verre)?\b)?|\bgesamthohe\b|\bgehausehohe\b",
    ),
    _named("", r"\bwithout crystal\b|\bwith crystal\b"),
    _named("diameter", DIAMETER),
    _named("diameter", r"\bwidth\b|\bwide\b|\bbreite\b|\bbreit\b|\blargeur\b", "likely", only_plausible=True),
    _named("lug_to_lug", LENGTH),
    _named("", others("case")),
)
DIAL = (
    _named(
        "centre_hole",
        r"\b(?:hole|bore) (?:in|at) (?:the )?(?:cent(?:er|re)|middle)\b|\bloch in der mitte\b|\btrou au centre\b|\b(?:percement|percage|alesage) central\b|\b(?:cent(?:er|re)|ctr|middle) (?:hole|bore)\b(?: (?:diameter|size|[ø⌀]))?|\bmittelloch\b|\bzentralloch\b|\btrou central\b|\bholes?\b(?: (?:diameter|size))?|\bloch\b|\btrou\b|\bbohrung\b",
    ),
    _named("", r"\b(?:date )?window (?:size|width|height)\b|\bfits?\b|\bfor\b"),
    _named(
        "diameter",
        rf"\bdial (?:diameter|size)\b|\bsize\b|\bgros+e\b|\btaille\b|\bzifferblattdurchmesser\b|{OUTER}|{DIAMETER}",
    ),
    _named(
        "edge_thickness",
        r"\bedge thickness\b|\bthickness (?:at|of) (?:the )?edge\b|\b(?:at|on) the edge\b|\brand(?:dicke|starke)\b|\bam rand\b",
    ),
    _named("edge_thickness", r"\bedge\b|\brand\b", only_plausible=True),
    _named("thickness", rf"\bdial thickness\b|{THICKNESS}"),
    _named("", others("dial")),
)
MOVEMENT = (
    _named(
        "face_to_stem",
        r"\bstem height\b|\b(?:dial|face)(?: side)? to (?:the )?stem(?: axis)?\b|\bstem (?:axis )?(?:to|below) (?:the )?(?:dial|face)(?: side)?\b|\bheight of (?:the )?stem\b"
        r"|\b(?:stell|aufzugs?)?wellenhohe\b|\bhohe (?:der )?(?:stell|aufzugs?)?welle\b|\b(?:hauteur|axe) (?:de )?(?:la )?tige\b|\bcote cadran a (?:la )?tige\b|\bzifferblattseite (?:bis|zu[rm]?) (?:stell|aufzugs?)?welle\b",
    ),
    _named(
        "",
        rf"\bstem length\b|\bstem thread\b|{THREAD}|\blift angle\b|\bdial (?:diameter|feet)\b|\bhand (?:height|sizes?|fittings?|holes?)\b|\bzeiger\w*|\bposts?\b",
    ),
    _named("diameter", rf"\bmovement (?:diameter|size)\b|\bcasing diameter\b|{DIAMETER}"),
    _named(
        "face_to_back",
        rf"(?:{HEIGHT}|{THICKNESS}) (?:without|w/o) (?:the )?(?:dial|hands)\b|\bmovement (?:height|thickness)\b|{HEIGHT}|{THICKNESS}",
        "likely",
    ),
    _named("", others("movement")),
)
CRYSTAL = (
    _named(
        "centre_thickness",
        r"\bcent(?:er|re) thickness\b|\bthickness (?:at|in) (?:the )?(?:cent(?:er|re)|middle)\b|\bmittendicke\b|\bmittenstarke\b|\bmitte\b|\bepaisseur (?:au |du )?centre\b|\bcent(?:er|re)\b|\bmiddle\b",
    ),
    _named(
        "edge_thickness",
        rf"\bedge thickness\b|\bthickness (?:at|of) (?:the )?edge\b|\brand(?:dicke|starke)\b|\bepaisseur (?:au |du )?bord\b|\bedge\b|{THICKNESS}",
    ),
    _named("diameter", rf"\bcrystal (?:diameter|size)\b|\bsize\b|\bgros+e\b|\btaille\b|{OUTER}|{DIAMETER}"),
    _named(
        "", rf"\bgaskets?\b|\bdomes? height\b|\bfits?\b|\bfor\b|{HEIGHT}|\bcases?\b|\bbezels?\b|\bgehause\b"
    ),
)
INSERT = (
    _named("outer_diameter", OUTER),
    _named("inner_diameter", INNER),
    _named("thickness", rf"{THICKNESS}|{HEIGHT}"),
    _named(
        "",
        rf"{DIAMETER}|\bnumerals?\b|\b(?:double sided )?tape\b|\badhesive\b|\bkleb\w+|{others('bezel_insert')}",
    ),
)
RING_SEAL = (
    _named(
        "cord",
        rf"\bcross section\b|\bcs\b|\bcord(?: (?:diameter|thickness))?\b|\bschnurstarke\b|\bschnurdicke\b|\bsection\b|\btore\b|{THICKNESS}",
    ),
    _named("inner_diameter", INNER),
    _named("outer_diameter", OUTER),
    _named("", rf"{DIAMETER}|{HEIGHT}|{others('back_gasket')}"),
)
CRYSTAL_GASKET = (
    _named("wall", rf"\bwall(?: thickness)?\b|\bwandstarke\b|\bcross section\b|\bparoi\b|{THICKNESS}"),
    _named("flange", r"\bflange(?: thickness)?\b"),
    _named("inner_diameter", INNER),
    _named("outer_diameter", OUTER),
    _named("", rf"{DIAMETER}|{HEIGHT}|{others('crystal_gasket')}"),
)
STRAP = (
    _named(
        "clasp_width",
        r"\b(?:width|breite|largeur) (?:at|an) (?:the |der )?(?:buckle|clasp|schlies+e)\b|\b(?:buckle|clasp) (?:width|size)\b|\btaper(?:s|ing|ed)? (?:down )?to\b|\bschlies+enbreite\b|\blargeur (?:a la |de (?:la )?)?boucle\b",
    ),
    _named("thickness", rf"(?:{THICKNESS}) {AT_LUGS}"),
    _named("", rf"(?:{THICKNESS}) (?:at|an) (?:the |der )?(?:buckle|clasp|tip|end|schlies+e)\b"),
    _named(
        "clasp_width",
        r"\b(?:buckle|clasp)(?: end)?\b|\bschlies+e\b|\bboucle\b|\bfermoir\b",
        only_plausible=True,
    ),
    _named("width", AT_LUGS, only_plausible=True),
    _named(
        "width",
        rf"\bwidth (?:at|between) (?:the )?(?:lugs|case|lug end)\b|{BETWEEN_LUGS}|\bwidth\b|\bwide\b|\bbreite\b|\bbreit\b|\blargeur\b|\blug end\b",
    ),
    _named("thickness", THICKNESS),
    _named("link_length", r"\blink length\b|\blength of (?:a|each|one) link\b|\bgliedlange\b"),
    _named("clasp_length", r"\b(?:clasp|buckle) length\b|\blength of (?:the )?clasp\b|\bschlies+enlange\b"),
    _named("length", LENGTH),
    _named("", r"\bwrists?\b|\bholes?\b|\bcases?\b|\bkeepers?\b"),
)
CHAPTER_RING = (
    _named("outer_diameter", OUTER),
    _named("inner_diameter", INNER),
    _named("drop", r"\bdrop\b|\bunderside below\b"),
    _named("", rf"{DIAMETER}|{HEIGHT}|{THICKNESS}|{others('chapter_ring')}"),
)
BEZEL = (
    _named("outer_diameter", OUTER),
    _named("inner_diameter", INNER),
    _named("", rf"\binserts?\b|\beinlagen?\b|{HEIGHT}|{THICKNESS}|{others('bezel')}"),
    _named("outer_diameter", DIAMETER),
)
SPRING_BARS = (
    _named(
        "tip_diameter",
        r"\btips?(?: (?:diameter|[ø⌀]))?\b|\bend(?: pin)? diameter\b|\bzapfen(?:durchmesser)?\b|\bpivots?\b|\bembouts?\b",
    ),
    _named("length", LENGTH),
    _named("diameter", rf"\b(?:bar|body) diameter\b|{DIAMETER}|{THICKNESS}"),
    _named("", rf"{BETWEEN_LUGS}|\bstraps?\b|\blugs?\b|\bfor\b"),
)
CROWN = (
    _named("thread", THREAD),
    _named(
        "",
        r"\btubes?\b(?: (?:hole|outer|inner))*(?: (?:diameter|thread|size)\b)?|\b(?:gasket|o ring)s?(?: (?:diameter|size))?\b|\bstem\b|\bcases?\b|\bheight\b|\bhohe\b|\bhauteur\b",
    ),
    _named("diameter", rf"\bcrown (?:diameter|size)\b|\bsize\b|{DIAMETER}"),
)
STEM = (
    _named(
        "thread_length",
        r"\bthread(?:ed)? length\b|\bthreaded\b(?! (?:crown|stem))|\blength of (?:the )?thread\b|\bgewindelange\b",
    ),
    _named("thread", THREAD),
    _named("length", rf"\b(?:total|overall) length\b|{LENGTH}"),
    _named("", rf"{DIAMETER}|{others('stem')}"),
)
BY_KIND: dict[str, tuple[Named, ...]] = {
    "case": CASE, "dial": DIAL, "movement": MOVEMENT, "crystal": CRYSTAL, "bezel_insert": INSERT,
    "back_gasket": RING_SEAL, "crown_gasket": RING_SEAL, "crystal_gasket": CRYSTAL_GASKET, "strap": STRAP,
    "spring_bars": SPRING_BARS, "crown": CROWN, "stem": STEM, "chapter_ring": CHAPTER_RING, "bezel": BEZEL,
}  # fmt: skip
PLAIN = {
    "inner_diameter": INNER, "outer_diameter": OUTER, "thickness": THICKNESS, "rim_thickness": r"\brim(?: thickness)?\b",
    "diameter": DIAMETER, "length": LENGTH, "width": r"\bwidth\b|\bbreite\b|\blargeur\b", "bore": r"\bbore\b|\bbohrung\b|\bhole\b|\bloch\b|\balesage\b|\bpercage\b|\btrou\b",
}  # fmt: skip
"""What names a quantity of any other kind of part, by its key."""


@cache
def labels_of(kind: str, keys: tuple[str, ...]) -> tuple[Named, ...]:
    """The labels that a part of the kind is read by; `keys` are those of its quantities."""
    known = BY_KIND.get(kind)
    return known or (
        *(_named(key, pattern) for key, pattern in PLAIN.items() if key in keys),
        *(
            _named(key, rf"\b{key.replace('_', ' ')}\b")
            for key in keys
            if key not in PLAIN and "." not in key
        ),
        _named("", others(kind)),
    )
