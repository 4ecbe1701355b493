"""What every endpoint has in common, written into the API's own document."""

from typing import Any

from ninja import NinjaAPI
from ninja.openapi.schema import OpenAPISchema

PROBLEM: dict[str, Any] = {
    "type": "object",
    "title": "Problem",
    "description": "Why something was not done (RFC 9457). `title` is a sentence for people, `code` is for programs.",
    "required": ["title", "status", "code"],
    "properties": {
        "title": {"type": "string"},
        "status": {"type": "integer"},
        "code": {"type": "string"},
        "field": {"type": "string", "description": "The field of the request that is meant."},
        "reasons": {"type": "array", "items": {"type": "string"}},
        "current_version": {"type": "integer", "description": "Of a record that was changed since it was seen."},
    },
}
_ANSWER = {
    "description": "Not done; see Problem.",
    "content": {"application/problem+json": {"schema": {"$ref": "#/components/schemas/Problem"}}},
}
_KEY = {
    "name": "Idempotency-Key",
    "in": "header",
    "required": False,
    "schema": {"type": "string", "maxLength": 100},
    "description": "Made by the caller. Sent again within 48 hours it is answered as before, and done once.",
}


class DocumentedAPI(NinjaAPI):
    """The API, whose document also says how requests fail and how they are sent twice."""

    def get_openapi_schema(self, **options: Any) -> OpenAPISchema:
        schema = super().get_openapi_schema(**options)
        schema["components"]["schemas"]["Problem"] = PROBLEM
        for path in schema["paths"].values():
            for method, operation in path.items():
                answers = {str(status): answer for status, answer in operation["responses"].items()}
                operation["responses"] = answers | {"4XX": _ANSWER, "5XX": _ANSWER}
                if method == "post":
                    operation["parameters"] = [*operation.get("parameters", ()), _KEY]
        return schema
