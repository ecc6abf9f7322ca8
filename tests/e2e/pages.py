"""Every page by its route's name, with an address of the demo for each; a test holds the names complete."""

import re
from collections.abc import Iterator

from starlette.testclient import TestClient

FOUND = "what a search found"
"""A search is begun by its form, never by an address."""
TRIAL = "/watches/2?try=[[%22dial.thickness%22,0.5]]"
CARD = "/watches/2/card?path="

PAGES: dict[str, tuple[str, ...]] = {
    "bench": ("/",),
    "watch": (
        "/watches/2", "/watches/3?view=hands&check=hand_stack", "/watches/2?view=front",
        "/watches/3?view=back", TRIAL,
    ),
    "face": (
        "/watches/1/face", "/watches/2/face?show=night&minutes=10", "/watches/3/face?show=wrist",
        "/watches/1/face?part=dial&edit=true", "/watches/1/face?wear=dial.1&part=dial",
    ),
    "brief": ("/watches/1/brief", "/watches/3/brief"),
    "begin": ("/begin",),
    "round": ("/round/watch/3", "/round/drawer/dial", "/round/donor/1"),
    "watch_listing": ("/watches/2/listing",),
    "part_listing": ("/parts/14/listing",),
    "shelf_listing": ("/shelf/listing",),
    "together": ("/watches/1/together?other=2&other=3",),
    "watch_parts": ("/watches/3/parts",),
    "house": ("/rules", "/rules?family=schools", "/rules?family=instruments"),
    "next": ("/watches/3/next",),
    "make": ("/watches/1/make",),
    "made": (
        "/watches/1/make/part/holder", "/watches/2/make/part/dial", "/watches/2/make/part/drilling-sheet",
        "/watches/2/make/part/spacer:0", "/watches/3/make/part/press-support", "/watches/1/make/part/dial",
    ),
    "made_words": ("/watches/1/make/part/holder/words?count=3",),
    "compare": ("/watches/2/compare",),
    "remedies": ("/watches/2/remedies?now=true",),
    "gaskets": ("/watches/2/gaskets", "/watches/3/gaskets"),
    "finder": ("/watches/2/finder",),
    "find": (FOUND,),
    "pairs": ("/watches/2/pairs",),
    "shopping": ("/watches/2/card-for/dial",),
    "shelf": ("/shelf?kind=dial&for=2",),
    "part": ("/parts/14",),
    "part_card": ("/parts/14/card?path=hands.hour.bore",),
    "donors": ("/donors",),
    "donor": ("/donors/1",),
    "exchange": ("/exchange",),
    "caliper": ("/caliper",),
    "watch_card": (
        f"{CARD}dial.thickness&reading=0.40&reading=0.41&reading=0.40&reading=0.9",
        f"{CARD}case.seat_to_tube&sheet=seat-to-tube&in-seat=5.1&in-hole=1.9&in-bore=1.2",
        f"{CARD}crown.thread&outside=0.89&over=1.8&pitches=8",
    ),
    "patterns": ("/patterns",),
    "orders": ("/orders",),
    "order": ("/watches/2/order",),
    "supply_order": ("/orders/2",),
    "suppliers": ("/suppliers",),
    "money": ("/watches/1/money",),
    "quote": ("/watches/1/quote?hours=3.5&setting_up=6&margin=12+%25",),
    "told_quote": ("/watches/1/quotes/1",),
    "series": ("/watches/1/series",),
    "drafting": ("/watches/2/drafting?fee=60&prints=3&each=4.50",),
    "stock": ("/stock",),
    "labels": ("/stock/labels?place=Drawer+D1",),
    "build": ("/watches/1/build",),
    "build_step": (
        "/watches/4/build/at/dress_stem_end", "/watches/4/build/at/check_minute",
        "/watches/3/build/at/remove_feet",
    ),
    "build_sheet": ("/watches/1/build/sheet",),
    "mishap": (
        "/watches/1/build/mishap?step=cut_stem",
        "/watches/1/build/mishap?step=cut_stem&kind=stem_short"),
    "sharing": ("/sharing",),
    "prove": ("/watches/1/prove", "/watches/4/prove"),
    "proof": (
        "/watches/4/prove/functions", "/watches/4/prove/sound", "/watches/2/prove/meeting", "/watches/1/prove/date",
        "/watches/4/prove/angle?picture=1&centre=450;450&marker=450;96&tip=450;160&item=minute",
        "/watches/4/prove/lume", "/watches/4/prove/lume?picture=2", "/watches/4/prove/dry", "/watches/4/prove/wrist",
        "/watches/3/prove/loupe", "/watches/3/prove/sound", "/watches/1/prove/dry",
    ),
    "story": ("/watches/4/story", "/watches/1/story?words=holder&trades=making", "/watches/3/story"),
    "spec_card": ("/watches/4/story/card", "/watches/1/story/card?number=2", "/watches/3/story/card"),
    "hand_over": ("/watches/4/story/sheet", "/watches/2/story/sheet"),
    "away": ("/watches/4/story/away", "/watches/1/story/away", "/watches/12/story/away"),
    "years": ("/workshop/years",),
    "report_record": ("/workshop/report",),
    "worth": ("/workshop/sellers",),
    "lessons": ("/workshop/lessons",),
    "rehearsals": ("/rehearsal", "/rehearsal?on=3"),
    "rehearsal": ("/rehearsal/12?at=4", "/rehearsal/13"),
    "sure_hand": ("/rehearsal/5/sure",),
    "handbook": ("/handbook", "/handbook?q=stem"),
    "chapter": ("/handbook/section", "/handbook/four-hands", "/handbook/dimensions", "/handbook/formats"),
}  # fmt: skip
NO_PAGES = {
    "raw_sheet", "caliper_stream", "shelf_csv", "workshop_zip", "try_part", "part_fold", "plate_svg",
    "sheet_json", "findings_json", "photo", "pairs_csv", "face_svg", "face_to_section", "client_sheet",
    "keys", "build_screens", "build_state", "build_stream", "timers", "enter", "made_mesh",
    "version_file", "measure", "version_zip", "proof_series", "chamber_stream", "chamber_stand_in", "watch_sound",
    "spec_card_pdf", "handbook_for", "tour", "spec_card_png", "spec_card_text",
}  # fmt: skip
"""Files, fragments, a stream, and addresses that lead on to a page."""
PASSING = {"import", "work", "taking", "side_view"}
"""Pages of a file on its way in, or of a picture: tests of their own see them."""


def broken_pages(client: TestClient) -> Iterator[str]:
    """Pages that cannot be shown any more: the bench, every watch on it, the shelf, donors, rules."""
    bench = client.get("/").text
    pages = [
        "/",
        "/shelf",
        "/donors",
        "/rules",
        "/exchange",
        *dict.fromkeys(re.findall(r'href="(/watches/\d+)"', bench)),
    ]
    for page in pages:
        if client.get(page).status_code != 200:
            yield page
    if "cannot be read" in bench:
        yield "a watch on the bench"
