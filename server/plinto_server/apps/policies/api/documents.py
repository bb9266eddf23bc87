"""Documents and pictures that policies are tried on."""

from __future__ import annotations

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_server import access
from plinto_server.apps.policies import services
from plinto_server.apps.policies.api.data import DocumentData
from plinto_server.apps.policies.models import Document
from plinto_server.apps.policies.pages import document_page, page_response
from plinto_server.parameters import Number
from plinto_server.requests import View
from plinto_server.uploads import Upload, uploaded

EDGE = Number("edge", 16, 2000, 800, whole=True, description="of the longer side, pixels")


class DocumentList(View):
    parser_classes = [MultiPartParser]

    @extend_schema(responses=DocumentData(many=True), operation_id="documents_list")
    def get(self, request: Request) -> Response:
        """One's own documents, newest first."""
        return Response(DocumentData(access.mine(request.user, Document), many=True).data)

    @extend_schema(request=Upload, responses=DocumentData, operation_id="documents_take")
    def post(self, request: Request) -> Response:
        """Take in a PDF or a picture."""
        with uploaded(request) as (path, name):
            made = services.take_document(access.person(request), path, name)
        return Response(DocumentData(made).data, status=201)


class DocumentPage(View):
    @extend_schema(
        responses={(200, "image/png"): OpenApiTypes.BINARY},
        operation_id="documents_page",
        parameters=[EDGE],
    )
    def get(self, request: Request, pk: int, page: int) -> HttpResponse:
        """A page as a picture, to find objects on."""
        document = access.own(request.user, Document, pk)
        edge = int(EDGE.of(request))
        return page_response(*document_page(document, page, edge))
