"""Output policies as data: rules by object kind and colour space, and what holds for all."""

from __future__ import annotations

from fnmatch import fnmatchcase
from typing import Annotated, Any, Literal, cast

from pydantic import (
    AfterValidator,
    BaseModel,
    BeforeValidator,
    ConfigDict,
    Field,
    PrivateAttr,
    model_validator,
)

from plinto_core.corrections import Vivid
from plinto_core.document.pdf.transfer import Transfer
from plinto_core.document.rules.checks import CHECKS, Check, CheckName, each_once
from plinto_core.document.rules.page_ranges import names_page, tidy
from plinto_core.document.rules.standards import Standard
from plinto_core.fields import checked
from plinto_core.icc.spaces import Family, Intent
from plinto_core.words import Said, say

Objects = Literal["images", "line art", "vectors", "text", "shadings", "all"]
Space = Literal[Family, "all"]
Action = Literal["convert", "leave", "black", "keep spot", "stop"]


def _named_in_full(value: Any) -> Any:
    """Policies that were kept before the years were told apart meant the later PDF/X-1a."""
    return "PDF/X-1a:2003" if value == "PDF/X-1a" else value


class _Frozen(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)


_INCLUDED_IN = {"text": "vectors", "line art": "images"}
_LINKED = ("RGB", "CMYK", "grey")
"""Spaces that a device link can begin with."""


class Rule(_Frozen):
    """The first rule that fits an object decides; vectors include text, images include line art (one
    bit a pixel).

    below : text smaller, or lines thinner than this, in points; None for all, areas among them; pages : as
    in page_ranges, "" for all; layer : a name, "" for all and none, * standing for any letters; spot : a colorant's name, "" for all, * standing for any letters; intent : fixed, or "own" with `fallback` where the object
    states none; convert takes spot colours to the destination's inks; black takes colours to black
    alone by their lightness; link : a device link by reference that makes the destination's numbers, in
    place of intent and BPC.
    """

    objects: Objects = "all"
    below: float | None = Field(None, gt=0, le=1000)
    space: Space = "all"
    spot: str = Field("", max_length=200)
    pages: Annotated[str, Field(max_length=200), AfterValidator(tidy)] = ""
    layer: str = Field("", max_length=200)
    action: Action
    intent: Intent | Literal["own"] = "relative"
    fallback: Intent = "relative"
    bpc: bool = True
    vivid: Vivid | None = None
    link: str | None = Field(None, max_length=300)
    _transfer: Transfer | None = PrivateAttr(None)

    @model_validator(mode="after")
    def _size_fits(self) -> Rule:
        if self.below is not None and self.objects not in ("text", "vectors"):
            raise ValueError(say("document.below-objects"))
        return self

    @model_validator(mode="after")
    def _link_fits(self) -> Rule:
        if self.link is not None and (self.action != "convert" or self.space not in _LINKED):
            raise ValueError(say("document.link-space"))
        if self.link is not None and self.vivid is not None:
            raise ValueError(say("document.link-vivid"))
        return self

    @property
    def stops(self) -> bool:
        """Whether a document with such an object is refused."""
        return self.action == "stop"

    @property
    def changes(self) -> bool:
        """Whether the object's colours become the destination's."""
        return self.action in ("convert", "black")

    @property
    def converts(self) -> bool:
        return self.action == "convert"

    @property
    def to_black(self) -> bool:
        """Whether colours become black alone."""
        return self.action == "black"

    @property
    def leaves(self) -> bool:
        return self.action == "leave"

    @property
    def passes(self) -> bool:
        """Whether the object's own numbers go out; a spot colour keeps its ink."""
        return self.action in ("leave", "keep spot")

    @property
    def transfer(self) -> Transfer | None:
        """Transfer functions that the object's colours go through, for what a policy makes of a rule."""
        return self._transfer

    def under(self, transfer: Transfer, action: Action) -> Rule:
        """The rule for what is printed through transfer functions, with an action that writes colours."""
        made = self.model_copy(update={"action": action})
        made._transfer = transfer
        return made

    def on_layer(self, layers: tuple[str, ...]) -> bool:
        """Whether the rule is for what lies on these layers."""
        return not self.layer or any(_is_named(name, self.layer) for name in layers)

    def key(self, intent: str) -> str:
        """All of the rule that decides what a colour becomes, under an intent; for caches."""
        whole = f"{self.action}:{intent}:{self.bpc}:{self.vivid}:{self.link}"
        return f"{whole}:{self._transfer.key}" if self._transfer is not None else whole


SpotName = Annotated[str, Field(min_length=1, max_length=200)]
InkName = Annotated[str, Field(min_length=1, max_length=40)]
Percent = Annotated[float, Field(ge=0, le=100)]


class ResolutionRule(_Frozen):
    """Pixels per inch of images at their size on the page; `to` is what they are reduced to."""

    low: float = Field(100, ge=0, le=10_000)
    high: float = Field(450, ge=1, le=20_000)
    above: Literal["report", "downsample"] = "report"
    to: float = Field(300, ge=10, le=10_000)

    def notes(self, ppi: float | None) -> list[Said]:
        """What to say of an image with this resolution."""
        if ppi is not None and ppi < self.low:
            return [say("document.few-ppi", ppi=self.low)]
        if ppi is not None and ppi > self.high:
            return [say("document.many-ppi", ppi=self.high)]
        return []


class Compression(_Frozen):
    kind: Literal["lossless", "jpeg"] = "lossless"
    quality: int = Field(90, ge=1, le=100)


ImageKind = Literal["grey", "line art"]


class ImagesOf(_Frozen):
    """What holds for images of one kind in place of what holds for all. Line art is never packed with
    loss, and stays line art when it is reduced."""

    resolution: ResolutionRule = ResolutionRule()
    compression: Compression = Compression()


class OutputPolicy(_Frozen):
    """destination : a profile reference; sources : stand-ins where no profile is given.

    own_intent : the document's output intent is the destination where it has one; embedded :
    embedded profiles honoured or overruled; clean : pure RGB primaries of vectors become clean
    mixtures of inks; tac : percent, None for no limit; tac_action : re-separate or report;
    bare_cmyk : profiles are taken off CMYK that is left, its numbers stay; checks : of preflight; pdfx : the part of ISO 15930 that the result is checked against; pdfx_made : and made for, marked
    as such where nothing is found to break it; condition, registry : the printing condition's name in
    the output intent and the registry that knows it, "" for what is known of the destination;
    images : resolution and packing of kinds of images that have their own; transfer : what becomes of
    transfer functions, which change tones on the way to the plates: they stay, are applied to the colours
    that come out in the destination's values, or are taken out; group_space : what transparency groups
    blend in: as the rules convert its space, the destination's in every case and for pages that name none,
    or as it is;
    builds : by the name of a spot colour, the destination's inks in percent that stand for its solid
    where a rule converts it, and their share for its tints.
    """

    version: Literal[1] = 1
    name: str = Field("Policy", min_length=1, max_length=100)
    destination: str
    own_intent: bool = False
    embedded: bool = True
    sources: dict[Literal["RGB", "CMYK", "grey"], str] = Field(default_factory=dict)
    rules: tuple[Rule, ...] = Field((), max_length=100)
    pure_black: bool = True
    greys_to_black: bool = False
    overprint_black: bool = False
    clean: bool = False
    tac: float | None = Field(None, ge=50, le=1500)
    tac_action: Literal["enforce", "report"] = "report"
    resolution: ResolutionRule = ResolutionRule()
    compression: Compression = Compression()
    images: dict[ImageKind, ImagesOf] = Field(default_factory=dict)
    transfer: Literal["keep", "apply", "remove"] = "keep"
    group_space: Literal["rules", "destination", "keep"] = "rules"
    bare_cmyk: bool = False
    profile_in: bool = True
    output_intent: bool = True
    mirror: bool = False
    builds: dict[SpotName, Annotated[dict[InkName, Percent], Field(max_length=15)]] = Field(
        default_factory=dict, max_length=500
    )
    checks: Annotated[tuple[Check, ...], AfterValidator(each_once)] = Field(
        (), max_length=len(CHECKS)
    )
    pdfx: Annotated[Standard | Literal["none"], BeforeValidator(_named_in_full)] = "none"
    pdfx_made: bool = False
    condition: str = Field("", max_length=200)
    registry: str = Field("", max_length=200)

    @property
    def tells_text(self) -> bool:
        """Whether rules know text from vectors."""
        return any(r.objects == "text" or r.below is not None for r in self.rules)

    @property
    def tells_layers(self) -> bool:
        return any(r.layer for r in self.rules)

    @property
    def tells_apart(self) -> bool:
        """Whether text, or things by their size or layer, may meet another rule than areas in the same
        colour."""
        return self.tells_text or self.tells_layers

    def images_of(self, kind: str) -> ImagesOf:
        """How images of a kind ("grey", "line art", else colour) are reduced and packed.

        Line art is fine by its nature: it is reduced only where the policy says so of line art.
        """
        own = self.images.get(cast(ImageKind, kind))
        if own is not None:
            return own
        general = self.resolution
        if kind == "line art":
            general = general.model_copy(update={"above": "report"})
        return ImagesOf(resolution=general, compression=self.compression)

    @property
    def enforced_tac(self) -> float | None:
        """The limit that objects are re-separated for, None where there is none or it is reported."""
        return self.tac if self.tac_action == "enforce" else None

    def on_page(self, page: int) -> OutputPolicy:
        """The policy as it is for one page, that may stand alone."""
        if not any(r.pages for r in self.rules):
            return self
        mine = [r for r in self.rules if not r.pages or names_page(r.pages, page)]
        return self.model_copy(
            update={"rules": tuple(r.model_copy(update={"pages": ""}) for r in mine)}
        )

    def check(self, what: CheckName) -> Check | None:
        """The check of a kind, where the policy makes it."""
        return next((c for c in self.checks if c.what == what), None)

    def rule_for(
        self, objects: str, family: str, names: tuple[str, ...] = (), size: float | None = None,
        page: int | None = None, layers: tuple[str, ...] = (),
    ) -> tuple[int, Rule]:  # fmt: skip
        """The number (from 1, 0 where none fits) and the rule for an object.

        size : of text, or the width of a line, in points; None for what has none; page : from 1, None
        for any page, which rules for some pages do not fit; layers : the names of all it lies on.
        """
        kinds = ("all", objects, _INCLUDED_IN.get(objects))
        for number, rule in enumerate(self.rules, 1):
            if rule.objects not in kinds or rule.space not in ("all", family):
                continue
            if rule.pages and (page is None or not names_page(rule.pages, page)):
                continue
            if rule.below is not None and (size is None or size >= rule.below):
                continue
            if not rule.on_layer(layers):
                continue
            if rule.spot and not any(_is_named(name, rule.spot) for name in names):
                continue
            return number, rule
        return 0, Rule(action="leave")


def _is_named(name: str, wanted: str) -> bool:
    """Whether a colorant is the one a rule names, where * stands for any letters and ? for one.

    A name that holds such signs itself is found as it is written.
    """
    return name == wanted or fnmatchcase(name, wanted)


def parse_policy(data: Any) -> OutputPolicy:
    """A policy from decoded JSON; raises BadRecipe with the field at fault."""
    return checked(OutputPolicy, data, "document.policy-not-usable")


def template(kind: str, destination: str, *, tac: float | None = None) -> OutputPolicy:
    """A usual case: strict-press, office-files, bare-cmyk or textile-transfer."""
    return TEMPLATES[kind](destination, tac)


def _strict(destination: str, tac: float | None) -> OutputPolicy:
    return OutputPolicy(
        name="Strict press", destination=destination, tac=tac, tac_action="enforce",
        rules=(
            Rule(space="spot", action="stop"),
            Rule(objects="images", space="RGB", action="convert", intent="perceptual"),
            Rule(space="RGB", action="convert"),
            Rule(space="Lab", action="convert"),
            Rule(space="grey", action="black"),
            Rule(space="CMYK", action="leave"),
        ),
        resolution=ResolutionRule(above="downsample"),
        checks=(
            Check(what="hairlines"), Check(what="white overprints"), Check(what="fonts"),
            Check(what="mixed text", severity="report"), Check(what="coarse line art", severity="report"),
            Check(what="bleed", severity="report"), Check(what="annotations", severity="report"),
        ),
    )  # fmt: skip


def _office(destination: str, tac: float | None) -> OutputPolicy:
    return OutputPolicy(
        name="Kind to office files", destination=destination, tac=tac, tac_action="report",
        greys_to_black=True, clean=True, overprint_black=True,
        rules=(
            Rule(objects="images", space="RGB", action="convert", intent="perceptual"),
            Rule(objects="vectors", space="RGB", action="convert", intent="saturation"),
            Rule(space="spot", action="convert"),
            Rule(space="grey", action="black"),
            Rule(space="CMYK", action="leave"),
            Rule(action="convert"),
        ),
        resolution=ResolutionRule(above="downsample", to=225, high=300),
        compression=Compression(kind="jpeg", quality=88),
        checks=(
            Check(what="hairlines", severity="mend"), Check(what="white overprints", severity="mend"),
            Check(what="fonts"),
        ),
    )  # fmt: skip


def _bare(destination: str, tac: float | None) -> OutputPolicy:
    return OutputPolicy(
        name="Receiver wants bare CMYK", destination=destination, tac=tac, tac_action="enforce",
        profile_in=False, output_intent=False, bare_cmyk=True,
        rules=(
            Rule(space="spot", action="convert"),
            Rule(space="grey", action="black"),
            Rule(space="CMYK", action="leave"),
            Rule(objects="images", action="convert", intent="perceptual"),
            Rule(action="convert"),
        ),
    )  # fmt: skip


def _textile(destination: str, tac: float | None) -> OutputPolicy:
    return OutputPolicy(
        name="Textile transfer", destination=destination, tac=tac, tac_action="enforce", mirror=True,
        rules=(
            Rule(space="spot", action="convert"),
            Rule(objects="images", action="convert", intent="perceptual"),
            Rule(action="convert", intent="saturation"),
        ),
    )  # fmt: skip


TEMPLATES = {
    "strict-press": _strict, "office-files": _office, "bare-cmyk": _bare, "textile-transfer": _textile,
}  # fmt: skip
