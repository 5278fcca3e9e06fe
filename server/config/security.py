"""The content security policy: everything from this very server, nothing inline."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

POLICY = "; ".join(
    (
        "default-src 'none'",
        "script-src 'self'",
        "style-src 'self'",
        "font-src 'self'",
        "img-src 'self' data: blob:",
        "connect-src 'self'",
        "manifest-src 'self'",
        "worker-src 'self'",
        "base-uri 'none'",
        "form-action 'self'",
        "frame-ancestors 'none'",
    )
)


class ContentSecurityPolicy:
    """Adds the policy, and switches off what a dryer's tool never asks a browser for."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        response = self.get_response(request)
        response.headers["Content-Security-Policy"] = POLICY
        response.headers["Permissions-Policy"] = "geolocation=(), payment=(), usb=()"
        return response


class NothingKept:
    """What the API says is somebody's: no cache between here and them keeps it, unless the answer says otherwise."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        response = self.get_response(request)
        if request.path_info.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "no-store")
        return response
