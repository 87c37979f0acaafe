// The doors of a form beside the desk: links, other systems that come in, and those that are called.
import { useSearchParams } from "react-router";
import { Chip } from "../../ui/chip";
import { Page } from "../../ui/page";
import { useForm } from "../form/form";
import { CallsOut } from "./calls-out";
import { Links } from "./links";
import { Systems } from "./systems";

const DOORS = [
  ["links", "Links"],
  ["systems", "API tokens"],
  ["calls", "Webhooks"],
] as const;

export function AccessPage() {
  const form = useForm().data;
  const [search, setSearch] = useSearchParams();
  const asked = search.get("kind");
  const door = DOORS.find(([key]) => key === asked)?.[0] ?? DOORS[0][0];
  if (!form) return null;
  return (
    <Page
      title="Access"
      of={form.name}
      heading={<h2 className="text-2xl">Doors</h2>}
      className="mx-auto w-full max-w-5xl px-6 py-5"
    >
      <fieldset aria-label="Kind of access" className="mt-1 mb-3 flex flex-wrap gap-1">
        {DOORS.map(([key, words]) => (
          <Chip key={key} chosen={door === key} onChoose={() => setSearch({ door: key })}>
            {words}
          </Chip>
        ))}
      </fieldset>
      {door === "links" && <Links form={form} />}
      {door === "systems" && <Systems formKey={form.key} />}
      {door === "calls" && <CallsOut formKey={form.key} />}
    </Page>
  );
}
