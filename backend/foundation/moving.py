"""Moving a table to another app without losing a row: for migrations."""

from collections.abc import Mapping
from typing import Any

from django.db.backends.base.schema import BaseDatabaseSchemaEditor
from django.db.migrations import CreateModel
from django.db.migrations.state import ProjectState


class CreateOrTakeOver(CreateModel):
    """Create a model's table; where the table of the app it came from is there, that becomes it, rows and all.

    Parameters
    ----------
    taken_from
        The table's earlier name.
    indexes
        Earlier names of its indexes to those they have now.
    gives_back
        On the way back the table goes to the app it came from, which is still there, instead of being dropped.
    """

    def __init__(
        self, *, taken_from: str, indexes: Mapping[str, str] | None = None, gives_back: bool = False, **model: Any
    ) -> None:
        super().__init__(**model)
        self.taken_from, self.earlier_indexes, self.gives_back = taken_from, dict(indexes or {}), gives_back

    def database_forwards(
        self, app_label: str, schema_editor: BaseDatabaseSchemaEditor, from_state: ProjectState, to_state: ProjectState
    ) -> None:
        with schema_editor.connection.cursor() as cursor:
            tables = schema_editor.connection.introspection.table_names(cursor)
        if self.taken_from not in tables:
            super().database_forwards(app_label, schema_editor, from_state, to_state)
            return
        model = to_state.apps.get_model(app_label, self.name)
        schema_editor.alter_db_table(model, self.taken_from, model._meta.db_table)
        for earlier, name in self.earlier_indexes.items():
            schema_editor.execute(f'ALTER INDEX "{earlier}" RENAME TO "{name}"')

    def database_backwards(
        self, app_label: str, schema_editor: BaseDatabaseSchemaEditor, from_state: ProjectState, to_state: ProjectState
    ) -> None:
        if not self.gives_back:
            super().database_backwards(app_label, schema_editor, from_state, to_state)
            return
        model = from_state.apps.get_model(app_label, self.name)
        schema_editor.alter_db_table(model, model._meta.db_table, self.taken_from)
