// Access to a form beside the desk: links, API tokens and webhooks.
import { useSearchParams } from "react-router";
import { Chip } from "../../ui/chip";
import { Page } from "../../ui/page";
import { words } from "../../words";
import { useForm } from "../form/form";
import { CallsOut } from "./calls-out";
import { Links } from "./links";
import { Systems } from "./systems";

const t = words("access");

const KINDS = [
  ["links", "Links"],
  ["systems", t("api_tokens")],
  ["calls", "Webhooks"],
] as const;

export function AccessPage() {
  const form = useForm().data;
  const [search, setSearch] = useSearchParams();
  const asked = search.get("kind");
  const kind = KINDS.find(([key]) => key === asked)?.[0] ?? KINDS[0][0];
  if (!form) return null;
  return (
    <Page
      title={t("access")}
      of={form.name}
      heading={<h2 className="text-2xl">{t("access")}</h2>}
      className="mx-auto w-full max-w-5xl px-6 py-5"
    >
      <fieldset aria-label={t("kind_of_access")} className="mt-1 mb-3 flex flex-wrap gap-1">
        {KINDS.map(([key, words]) => (
          <Chip key={key} chosen={kind === key} onChoose={() => setSearch({ kind: key })}>
            {words}
          </Chip>
        ))}
      </fieldset>
      {kind === "links" && <Links form={form} />}
      {kind === "systems" && <Systems formKey={form.key} />}
      {kind === "calls" && <CallsOut formKey={form.key} />}
    </Page>
  );
}
