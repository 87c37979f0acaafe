// What an OpenAPI document says, in words.
import { words } from "../../words";

const t = words("access");

export type Operation = {
  summary?: string;
  description?: string;
  parameters?: { name: string; in: string; required?: boolean; description?: string }[];
  requestBody?: { content: Record<string, { schema: Schema }> };
};
export type Schema = {
  $ref?: string;
  type?: string;
  description?: string;
  anyOf?: Schema[];
  items?: Schema;
  enum?: string[];
  properties?: Record<string, Schema>;
  required?: string[];
};
export type Document = {
  paths: Record<string, Record<string, Operation>>;
  components: { schemas: Record<string, Schema> };
};

/** The shape that is meant, where it is only referred to. */
export function resolved(schema: Schema, document: Document): Schema {
  const name = schema.$ref?.split("/").at(-1);
  return (name && document.components.schemas[name]) || schema;
}

/** “a text”, “a list of OneOf”, “a number or nothing”. */
export function kindOf(schema: Schema): string {
  if (schema.$ref) return schema.$ref.split("/").at(-1) ?? "";
  if (schema.anyOf) return schema.anyOf.map((one) => kindOf(one)).join(" or ");
  if (schema.enum) return schema.enum.join(", ");
  if (schema.type === "array")
    return t("a_list_of", {
      items: String(Boolean(schema.items)),
      items2: schema.items ? kindOf(schema.items) : "",
    });
  return KINDS[schema.type ?? ""] ?? "anything";
}

const KINDS: Record<string, string> = {
  string: t("a_text"),
  integer: t("a_whole_number"),
  number: t("a_number"),
  boolean: t("true_or_false"),
  object: t("an_object"),
  null: "nothing",
};
