// How the service API is called, from its own OpenAPI document.

import { useQuery } from "@tanstack/react-query";
import { keys } from "../../api/keys";
import { words } from "../../words";
import { type Document, kindOf, type Operation, resolved } from "./openapi-words";

const t = words("access");

type Props = { formKey: string };

const DOCUMENT = "/service/v1/openapi.json";

export function HowItIsCalled({ formKey }: Props) {
  const document = useQuery({
    queryKey: keys.serviceDocument,
    queryFn: async () => (await (await fetch(DOCUMENT)).json()) as Document,
    staleTime: Number.POSITIVE_INFINITY,
  }).data;
  const at = `${window.location.origin}/service/v1/forms/${formKey}/records`;
  return (
    <section aria-labelledby="calls" className="mt-6">
      <h3 id="calls" className="text-lg">
        {t("how_it_is_called")}
      </h3>
      <pre className="mt-2 overflow-x-auto border border-hairline bg-leaf px-3 py-2 font-mono text-sm">
        {`curl ${at} \\
  -H "Authorization: Bearer $TOKEN" -H "Content-Type: application/json" \\
  -H "Idempotency-Key: $(uuidgen)" \\
  -d '{"values": {}, "submit": false}'`}
      </pre>
      <p className="mt-2 text-muted">
        {t("values_are_in_canonical_form_decimals_as")}{" "}
        <a href={DOCUMENT} className="text-thistle hover:underline">
          {t("the_openapi_document")}
        </a>{" "}
        {t("says_all_of_it_to_machines")}
      </p>
      {document && (
        <dl className="mt-3 border-t border-edge">
          {Object.entries(document.paths).flatMap(([path, operations]) =>
            Object.entries(operations).map(([method, operation]) => (
              <Call
                key={`${method} ${path}`}
                method={method}
                path={path}
                operation={operation}
                document={document}
              />
            )),
          )}
        </dl>
      )}
    </section>
  );
}

type CallProps = { method: string; path: string; operation: Operation; document: Document };

function Call({ method, path, operation, document }: CallProps) {
  const sent = operation.requestBody?.content["application/json"]?.schema;
  const body = sent && resolved(sent, document);
  const asked = (operation.parameters ?? []).filter((one) => one.in !== "path");
  return (
    <div className="border-b border-hairline py-2">
      <dt className="font-mono text-sm">
        <span className="inline-block w-16 font-semibold">{method.toUpperCase()}</span> {path}
      </dt>
      <dd className="pl-16">
        {operation.description}
        {(asked.length > 0 || body?.properties) && (
          <details className="mt-1">
            <summary className="cursor-pointer text-thistle">{t("what_it_takes")}</summary>
            <ul className="mt-1 list-[square] pl-5">
              {asked.map(({ name, in: place, description }) => (
                <li key={name}>
                  {t.rich("parameter_name", {
                    code: (chunks) => <code className="font-mono text-sm">{chunks}</code>,
                    name,
                    place: place === "header" ? "header" : "query",
                  })}
                  {description && <span className="text-muted">: {description}</span>}
                </li>
              ))}
              {Object.entries(body?.properties ?? {}).map(([name, schema]) => (
                <li key={name}>
                  <code className="font-mono text-sm">{name}</code>: {kindOf(schema)}
                  {body?.required?.includes(name) && t("required")}
                  {schema.description && <span className="text-muted">. {schema.description}</span>}
                </li>
              ))}
            </ul>
          </details>
        )}
      </dd>
    </div>
  );
}
