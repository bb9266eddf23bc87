"""Every error the core raises on purpose.

CoreError
├── BadInput             the given file or value cannot be used; the message says what to do
│   ├── BadProfile       an ICC profile that is damaged, hostile or of the wrong kind
│   ├── BadImage         a picture that is damaged, hostile, too large or of an unknown kind
│   ├── BadDocument      a PDF that is damaged, hostile, encrypted or contradicts itself
│   ├── BadMeasurement   characterisation data that cannot be read or do not suffice
│   └── BadRecipe        a recipe, ink rules or settings that contradict themselves
├── NotSupported         well-formed, but beyond what Plinto does
├── NoRoom               the disk is full
├── NotWritable          a folder cannot be written
├── PolicyStop           a rule of an output policy stops the document
└── Cancelled            the caller asked to stop
"""

from plinto_core.words import Said, say


class CoreError(Exception):
    """Root of the tree; `code` names the kind, `said` what happened with its own code and values,
    `remedy` what the user can do. Everything the core raises is worded in `words`."""

    code = "core-error"

    def __init__(self, message: str, *, remedy: str = "") -> None:
        super().__init__(message)
        self.said = Said.read(message)
        self.message = str(message)
        self.remedy = remedy or self.said.remedy

    def __str__(self) -> str:
        return f"{self.message} {self.remedy}".strip()


class BadInput(CoreError):
    code = "bad-input"


class BadProfile(BadInput):
    code = "bad-profile"


class BadImage(BadInput):
    code = "bad-image"


class BadDocument(BadInput):
    code = "bad-document"


class BadMeasurement(BadInput):
    code = "bad-measurement"


class BadRecipe(BadInput):
    code = "bad-recipe"


class NotSupported(CoreError):
    code = "not-supported"


class NoRoom(CoreError):
    code = "no-room"


class NotWritable(CoreError):
    code = "not-writable"


class PolicyStop(CoreError):
    code = "policy-stop"


class Cancelled(CoreError):
    code = "cancelled"

    def __init__(self, message: str = "") -> None:
        super().__init__(message or say("errors.cancelled"))
