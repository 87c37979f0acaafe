"""Web addresses: of pages to go on to, of webhook receivers, and origins."""

from urllib.parse import urlsplit


def is_web_address(text: str) -> bool:
    """Whether it is the whole address of a page or a service, without a name and a password."""
    try:
        parts = urlsplit(text)
        whole = parts.scheme in ("http", "https") and bool(parts.hostname)
        plain = parts.username is None and text.isprintable() and " " not in text
        return whole and plain and (parts.port or 1) > 0
    except ValueError:
        return False


def origin_in(address: str) -> str:
    """Where an address lies, as browsers compare it: `https://www.example.org:8443`."""
    parts = urlsplit(address)
    return f"{parts.scheme}://{parts.netloc}".lower()


def origin_of(text: str) -> str | None:
    """What was written as an origin; None: it is none, or more than that."""
    if not is_web_address(text) or not text.isascii() or any(one in text for one in "*;,'\""):
        return None
    parts = urlsplit(text)
    alone = parts.path in ("", "/") and not parts.query and not parts.fragment
    return origin_in(text) if alone else None
