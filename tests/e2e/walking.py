"""A builder who walks through the program by what is written on it: words, labels, keys."""

from collections.abc import Callable
from functools import partial

from selenium.common.exceptions import NoSuchElementException, StaleElementReferenceException
from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.wait import WebDriverWait

from tests.e2e.conftest import LONGEST_WAIT_S

TRIES = 4
LABELLED = """
const [words, within] = arguments;
const said = (e) => e.textContent.replace(/\\s+/g, ' ').trim();
const root = within ? [...document.querySelectorAll('section, form, li, article, fieldset, details, tr')]
  .filter(e => said(e).includes(within)).pop() : document;
if (!root) return null;
const shown = (e) => ['file', 'radio', 'checkbox'].includes(e.type) || e.checkVisibility();
const fits = (told) => told && (told === words || told.startsWith(words));
const fields = [...root.querySelectorAll('input:not([type=hidden]), select, textarea')].filter(shown);
return fields.find(e => [...(e.labels ?? [])].some(l => fits(said(l)))) ??
  fields.find(e => fits(e.getAttribute('aria-label')) || fits(e.placeholder)) ?? null;
"""
PRESSED = """
const [words, within] = arguments;
const said = (e) => (e.getAttribute('aria-label') ?? e.textContent).replace(/\\s+/g, ' ').trim();
const whole = (e) => e.textContent.replace(/\\s+/g, ' ').trim();
const root = within ? [...document.querySelectorAll('section, form, li, article, fieldset, details, tr')]
  .filter(e => whole(e).includes(within)).pop() : document;
if (!root) return null;
const all = [...root.querySelectorAll('button, a, summary, label')].filter(e => e.checkVisibility());
return all.find(e => said(e) === words || whole(e) === words) ??
  all.find(e => whole(e).startsWith(words)) ?? all.find(e => whole(e).includes(words)) ?? null;
"""


class Walker:
    """One builder at one browser."""

    def __init__(self, browser: Chrome, address: str) -> None:
        self.browser = browser
        browser.get(address)

    def waits(self, until: Callable[[Chrome], object], what: str = "") -> None:
        """Until something is so; TimeoutException, saying what was waited for, after a while."""
        patient = WebDriverWait(
            self.browser, LONGEST_WAIT_S, 0.05, (StaleElementReferenceException, NoSuchElementException)
        )
        patient.until(until, what)

    def sees(self, *words: str) -> None:
        """All of these are read on the page, by now or in a moment."""
        for each in words:
            self.waits(partial(self._reads, each), f"“{each}” is read")

    def _reads(self, words: str, _: Chrome) -> bool:
        return words.casefold() in self.text.casefold()

    @property
    def text(self) -> str:
        """What the page says, in one line; what is folded away is left out."""
        told = self.browser.execute_script("return document.body.innerText")
        return " ".join(str(told).split())

    def settles(self) -> None:
        """Wait until nothing is being saved: no part of the page will be exchanged under the hand."""
        self.waits(lambda b: b.execute_script("return !document.querySelector('#status.saving')"), "saved")

    def press(self, words: str, within: str = "") -> None:
        """Click what says this: a button, a link, a fold; the first of them, within what else is said."""
        self.settles()
        self._still(lambda: self._found(PRESSED, words, within).click())

    def type(self, label: str, value: str, within: str = "", end: str = "") -> None:
        """Write into the field of that label, what stood there gone, and end it with a key."""
        self.settles()
        self._still(lambda: self._written(self._found(LABELLED, label, within), value + end))

    @staticmethod
    def _written(field: WebElement, keys: str) -> None:
        if field.get_attribute("type") != "file":
            field.clear()
        field.send_keys(keys)

    @staticmethod
    def _still(act: Callable[[], None]) -> None:
        """Do it again where the page was exchanged under the hand, as a builder would."""
        for _ in range(TRIES):
            try:
                return act()
            except StaleElementReferenceException:
                continue
        return act()

    def enter(self, label: str, value: str, within: str = "") -> None:
        """The same with Enter at its end."""
        self.type(label, value, within, Keys.ENTER)

    def choose(self, label: str, option: str, within: str = "") -> None:
        """Take an option of a list by its words."""
        self.settles()
        self._still(lambda: self._chosen(self._found(LABELLED, label, within), option))

    @staticmethod
    def _chosen(field: WebElement, option: str) -> None:
        told = {each.text.strip(): each for each in field.find_elements(By.TAG_NAME, "option")}
        next(each for words, each in told.items() if words.startswith(option)).click()

    def tick(self, label: str, within: str = "") -> None:
        """Click a box or a circle."""
        self.browser.execute_script("arguments[0].click()", self._found(LABELLED, label, within))

    def key(self, *keys: str) -> None:
        """Press keys, wherever the cursor is."""
        for each in keys:
            self.browser.switch_to.active_element.send_keys(each)

    def _found(self, script: str, words: str, within: str) -> WebElement:
        held: list[WebElement] = []

        def found(browser: Chrome) -> bool:
            one = browser.execute_script(script, words, within)
            held[:] = [one] if one is not None else []
            return bool(held)

        self.waits(
            found, f"“{words}”{f' in “{within}”' if within else ''}; the page says: {self.text[:1500]}"
        )
        self.browser.execute_script("arguments[0].scrollIntoView({block: 'center'})", held[0])
        return held[0]
