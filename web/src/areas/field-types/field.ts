import type { Schemas } from "../../api/client";

export type Field = Schemas["FieldView"]["field"];
export type FieldType = Field["type"];
export type FieldOf<T extends FieldType> = Extract<Field, { type: T }>;
