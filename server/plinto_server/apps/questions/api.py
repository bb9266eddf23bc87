"""Questions: which there are, and their answers as data and as pages."""

from __future__ import annotations

from django.http import Http404, HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_core.fields import Part
from plinto_core.questions.answer import Answer
from plinto_core.questions.asked import QUESTIONS, Question, question
from plinto_core.questions.page import answer_pdf
from plinto_server import access
from plinto_server.apps.questions.services import answer
from plinto_server.requests import View

_PARTS = sorted({p.key for q in QUESTIONS for p in q.parts})
PARAMETERS = [
    OpenApiParameter(
        key, str, description="a profile or job by its number, a number, or a choice, as the question says"
    )
    for key in _PARTS
]  # fmt: skip


def asked(key: str) -> Question:
    """A question by its key; raises Http404."""
    try:
        return question(key)
    except StopIteration:
        raise Http404 from None


class Questions(Part):
    """All that can be asked."""

    questions: tuple[Question, ...]


class QuestionList(View):
    @extend_schema(responses=Questions, operation_id="questions_list")
    def get(self, request: Request) -> Response:
        """All questions and what each is asked with."""
        return Response(Questions(questions=QUESTIONS).model_dump(mode="json"))


class QuestionAnswer(View):
    @extend_schema(responses=Answer, operation_id="questions_answer", parameters=PARAMETERS)
    def get(self, request: Request, key: str) -> Response:
        """The answer: in words and figures, what was done, where to look further."""
        found = answer(access.person(request), asked(key), request.query_params.dict())
        return Response(found.model_dump(mode="json"))


class QuestionPages(View):
    @extend_schema(
        responses={(200, "application/pdf"): OpenApiTypes.BINARY},
        operation_id="questions_pages",
        parameters=PARAMETERS,
    )
    def get(self, request: Request, key: str) -> HttpResponse:
        """The answer as pages."""
        found = answer(access.person(request), asked(key), request.query_params.dict())
        response = HttpResponse(answer_pdf(found), content_type="application/pdf")
        response["Content-Disposition"] = f'attachment; filename="{key}.pdf"'
        return response
