// What an OpenAPI document says, in words.

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
    return `a list of ${schema.items ? kindOf(schema.items) : "anything"}`;
  return KINDS[schema.type ?? ""] ?? "anything";
}

const KINDS: Record<string, string> = {
  string: "a text",
  integer: "a whole number",
  number: "a number",
  boolean: "true or false",
  object: "an object",
  null: "nothing",
};
