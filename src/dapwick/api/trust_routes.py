"""How a tablet comes to trust the salon's own certificate."""

from __future__ import annotations

from fastapi import APIRouter, Request, Response
from pydantic import BaseModel

from dapwick.api.at_hand import Network, Responses
from dapwick.core.basics.errors import NotFound
from dapwick.devices.certificates import Certificates

router = APIRouter()
FROM_ANYWHERE = {"Access-Control-Allow-Origin": "*", "Cross-Origin-Resource-Policy": "cross-origin"}
"""The plain page asks the https address whether it is trusted; it holds no secret."""
DER: Responses = {200: {"content": {"application/x-x509-ca-cert": {}}}}


class TrustOut(BaseModel):
    """secure: the salon's https address, None where it has none; fingerprint: SHA-256 of its authority."""

    secure: str | None
    fingerprint: str | None


@router.get("/trust")
def get_trust(request: Request, reach: Network, response: Response) -> TrustOut:
    response.headers.update(FROM_ANYWHERE)
    papers = _certificates(request)
    if papers is None:
        return TrustOut(secure=None, fingerprint=None)
    return TrustOut(secure=reach.address, fingerprint=papers.fingerprint)


@router.get("/trust/authority.crt", response_class=Response, responses=DER)
def get_authority(request: Request) -> Response:
    """What a tablet takes in to trust the salon."""
    papers = _certificates(request)
    if papers is None:
        raise NotFound("certificate", "of this salon")
    named = {"Content-Disposition": 'attachment; filename="dapwick-salon.crt"', "Cache-Control": "no-store"}
    return Response(papers.authority_der, media_type="application/x-x509-ca-cert", headers=named)


def _certificates(request: Request) -> Certificates | None:
    found: Certificates | None = request.app.state.certificates
    return found
