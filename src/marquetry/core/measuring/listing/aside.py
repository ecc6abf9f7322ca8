"""Lines of an order that are of no part: postage, tax, warranty, payment, and what the whole of it comes to."""

import re

from marquetry.core.measuring.listing.kinds import head_of
from marquetry.core.measuring.listing.line import ListingLine

ASIDE = re.compile(
    r"\b(?:shipping|postage|p ?& ?p|delivery|dispatch(?:ed)?|courier|carriage|tracking|handling|customs|import duty|tax(?:es)?|vat|sales tax|warranty|guarantee|guaranteed|"
    r"returns?|refunds?|payments?|pay(?:able)?|paid|bank transfer|invoice|order (?:no|number|confirmation|date|placed)|confirmation|receipt|discount|coupon|voucher|deposit|"
    r"i (?:post|ship|send)|we (?:post|ship|send)|posted|customer|"
    r"versand(?:kosten)?|porto|lieferung|lieferzeit|mwst|ust|mehrwertsteuer|garantie|gewahrleistung|ruckgabe|rucksendung|zahlung|zahlbar|uberweisung|rechnung|rabatt|gutschein|"
    r"livraison|frais de port|port(?= (?:et|offert|compris|inclus)|\s*[:\d])|expedition|expedie|tva|retours?|remboursement|paiement|virement|facture|remise|"
    r"bestell(?:ung|nummer|bestatigung)|auftrag(?:snummer|sbestatigung)?|commande)\b"
)
"""What makes a line one on postage and the like, where it stands before any part's name."""
LENGTH = re.compile(r"\d\s*(?:mm|cm|in\b|\"|″)|\d\s*[x×]\s*\d")
MONEY = re.compile(r"\d\s*(?:[$€£]|(?:eur|usd|gbp|chf)\b)|(?:[$€£]|\b(?:eur|usd|gbp|chf))\s*\d")
MAIL_HEADER = re.compile(
    r"(?:from|cc|subject|sent|reply to|betreff|gesendet|objet|envoye)\s*:|(?:to|date|von|an|datum|re|fwd?|aw|tr)\s*:\s*(?!\d{1,2}(?:[.,:]\d+)?\s*(?:o.clock|uhr|$))(?=.*(?:@|\b(?:20\d\d|order|offer|kit|watch|quote|invoice|bestellung|angebot|rechnung|commande|devis|facture|re:)\b))"
)
INCLUDED = re.compile(
    r"\b(?:incl(?:uding|uded|\.)?|inkl(?:usive|\.)?|inclus|comprise?|plus|zzgl\.?|excl(?:uding|\.)?|exkl\.?|hors|with)\s+"
    r"(?:free )?(?:\d+ ?% )?(?:the )?(?:shipping|postage|delivery|vat|tax(?:es)?|mwst|ust|versand|porto|tva|port|p&p)\b"
)
"""What a price holds or leaves out makes its line none on postage."""
WHOLE = re.compile(
    r"\b(?:(?:grand |order |sum )?total(?: (?:price|amount|sum|ttc|incl\w*\.?|due|for (?:all|everything|both)|of (?:all|everything)))*|amount (?:due|payable)|to pay|sum(?= *[:=\d$€£]| of)|"
    r"all together|altogether|all(?: of (?:it|them|this))? for|everything(?: (?:for|together))?|together|(?:complete |whole |full )?(?:kit|bundle|lot|package)(?: price| total)?(?: for| at)?|the lot(?: for)?|for (?:both|all)|"
    r"(?:gesamt|end)(?:summe|preis|betrag)|gesamt|summe|alles (?:zusammen|fur)|zusammen|insgesamt|rechnungsbetrag|zu zahlen|komplett(?:preis)?|"
    r"(?:montant |prix )?total(?: ttc| general)?|au total|le tout|tout ensemble|ensemble|net a payer|prix (?:du lot|du kit|total))\b"
)
PART_OF_IT = re.compile(
    r"\b(?:sub ?total|(?:^|\b)goods(?=:? *[\d$€£])|warenwert|marchandises?(?=:? *\d)|zwischensumme|sous total|total (?:ht|excl\w*|before|net)|netto(?:summe|betrag)?|total length|net total|total (?:weight|height|thickness))\b"
)
"""A sum that is not what is paid in all, or no sum."""


def is_aside(line: ListingLine) -> bool:
    """Whether the line is on postage, tax, warranty, returns or payment: it heads no part and asks no part's price."""
    if MAIL_HEADER.match(line.plain):
        return True
    plain = INCLUDED.sub(lambda match: "\0" * len(match[0]), line.plain)
    found = ASIDE.search(plain)
    if found is None:
        return False
    head = head_of(line.plain)
    if head is None:
        told_before = MONEY.search(plain, 0, found.start()) or LENGTH.search(plain)
        return told_before is None and found.start() <= FAR
    return found.start() < head.start


FAR = 40
"""Further on, such words are only added to what a line says of its part (“28.5 mm, …, free shipping”)."""


def whole_at(line: ListingLine) -> int | None:
    """Where the words stand that make a line the sum of the order; None of any other line."""
    if PART_OF_IT.search(line.plain) or LENGTH.search(line.plain):
        return None
    found = WHOLE.search(line.plain)
    head = head_of(line.plain)
    if found is None or (head is not None and head.start < found.start()):
        return None
    return found.start()


def is_part_of_the_whole(line: ListingLine) -> bool:
    """Whether the line is a sum on the way to the whole, such as a subtotal."""
    return PART_OF_IT.search(line.plain) is not None
