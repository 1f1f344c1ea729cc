"""The little that all charts share. Colours are classes: the style sheet knows light and dark."""

from collections.abc import Iterable
from html import escape


def fixed(value: float) -> str:
    """A coordinate with at most two decimals, the same on every machine."""
    return f"{value:.2f}".rstrip("0").rstrip(".")


def tag(name: str, content: str = "", **attributes: object) -> str:
    """One element. Underscores at the end and inside names: `class_`, `stroke_width`."""
    given = "".join(
        f' {key.rstrip("_").replace("_", "-")}="{_value(value)}"'
        for key, value in attributes.items()
        if value != ""
    )
    return f"<{name}{given}>{content}</{name}>" if content else f"<{name}{given}/>"


def _value(value: object) -> str:
    return fixed(value) if isinstance(value, float) else escape(str(value))


def line(x1: float, y1: float, x2: float, y2: float, class_: str) -> str:
    """A line."""
    return tag("line", x1=float(x1), y1=float(y1), x2=float(x2), y2=float(y2), class_=class_)


def rect(x: float, y: float, width: float, height: float, class_: str, rx: float = 0) -> str:
    """A box."""
    return tag(
        "rect",
        x=float(x),
        y=float(y),
        width=float(width),
        height=float(height),
        rx=float(rx),
        class_=class_,
    )


def words(x: float, y: float, text: object, class_: str = "", anchor: str = "") -> str:
    """Text at a point; anchor: start, middle or end."""
    return tag("text", escape(str(text)), x=float(x), y=float(y), class_=class_, text_anchor=anchor)


def alone(svg: str, style: str) -> str:
    """A drawing that carries its own style, for a file or for paper."""
    head, close, rest = svg.partition(">")
    return f"{head}{close}<style>{style}</style>{rest}"


def drawing(width: float, height: float, title: str, parts: Iterable[str], class_: str) -> str:
    """A whole picture with its title for those who cannot see it; without a title it only stands
    beside words that say the same.
    """
    body = (f"<title>{escape(title)}</title>" if title else "") + "".join(parts)
    role = 'role="img"' if title else 'aria-hidden="true"'
    box = f"0 0 {fixed(width)} {fixed(height)}"
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" {role} class="{class_}" viewBox="{box}" '
        f'width="{fixed(width)}" height="{fixed(height)}">{body}</svg>'
    )
