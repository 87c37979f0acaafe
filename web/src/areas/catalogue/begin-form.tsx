// A form begun: empty, from a sample, as a copy of another, or from the columns of a file.

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { type FormEvent, useState } from "react";
import { useNavigate } from "react-router";
import { answer, client, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useMay } from "../../api/session";
import { useAddress } from "../../ui/address";
import { Button } from "../../ui/button";
import { ChoicePart } from "../../ui/choice-part";
import { Sheet } from "../../ui/sheet";
import { Trouble } from "../../ui/trouble";
import { words } from "../../words";
import { type Accepted, FileColumns } from "./file-columns";

const t = words("catalogue");

type Way = "empty" | "sample" | "copy" | "file";
const WAYS: { way: Way; words: string }[] = [
  { way: "empty", words: t("empty") },
  { way: "sample", words: t("from_a_sample") },
  { way: "copy", words: t("as_a_copy_of_a_form") },
  { way: "file", words: t("from_a_file_s_columns") },
];
const NOTHING_OPEN = { sheet: "" };
const NOTHING: Accepted = { fields: [], rules: [] };

export function BeginForm() {
  const mayEdit = useMay("edit_draft");
  const [{ sheet }, ask] = useAddress(NOTHING_OPEN);
  if (!mayEdit) return null;
  return (
    <>
      <Button look="solid" onClick={() => ask({ sheet: "begin" })}>
        <Plus size={18} aria-hidden="true" /> {t("new_form")}
      </Button>
      {sheet === "begin" && <BeginSheet onClose={() => ask(NOTHING_OPEN)} />}
    </>
  );
}

function BeginSheet({ onClose }: { onClose: () => void }) {
  const [way, setWay] = useState<Way>("empty");
  const [name, setName] = useState("");
  const [purpose, setPurpose] = useState("");
  const [sample, setSample] = useState("");
  const [copy, setCopy] = useState("");
  const [accepted, setAccepted] = useState(NOTHING);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const begin = useMutation({
    mutationFn: () => {
      const body: Schemas["NewForm"] = {
        name,
        purpose,
        sample: way === "sample" ? sample : null,
        copy_of: way === "copy" ? copy : null,
        ...(way === "file" ? accepted : NOTHING),
      };
      return answer(client.POST("/api/v1/forms", { body }));
    },
    onSuccess: (form) => {
      queries.invalidateQueries({ queryKey: keys.forms });
      navigate(`/forms/${form.key}/fields`);
    },
  });
  const ready =
    way === "empty" ||
    (way === "sample" && sample) ||
    (way === "copy" && copy) ||
    (way === "file" && accepted.fields.length > 0);
  function submit(event: FormEvent) {
    event.preventDefault();
    begin.mutate();
  }
  return (
    <Sheet
      title={t("new_form_2")}
      wide={way === "file"}
      open
      onOpenChange={(open) => !open && onClose()}
    >
      <form onSubmit={submit}>
        <label className="block">
          {t("name")}
          <input
            className="line-input mt-1 block w-full"
            required
            spellCheck
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <label className="mt-3 block">
          {t("what_it_is_for")}
          <textarea
            className="line-input mt-1 block w-full"
            rows={2}
            spellCheck
            value={purpose}
            onChange={(event) => setPurpose(event.target.value)}
          />
        </label>
        <fieldset className="mt-3 flex flex-wrap gap-x-5 gap-y-1">
          <legend>{t("it_begins")}</legend>
          {WAYS.map((one) => (
            <label key={one.way} className="flex items-center gap-1.5">
              <input
                type="radio"
                name="way"
                className="size-4 accent-thistle"
                checked={way === one.way}
                onChange={() => setWay(one.way)}
              />
              {one.words}
            </label>
          ))}
        </fieldset>
        {way === "sample" && <SamplePart sample={sample} onChoose={setSample} />}
        {way === "copy" && <CopyPart copy={copy} onChoose={setCopy} />}
        {way === "file" && <FileColumns onAccept={setAccepted} />}
        <div className="mt-3">
          <Trouble error={begin.error} />
        </div>
        <Button look="solid" type="submit" className="mt-3" busy={begin.isPending || !ready}>
          {t("begin")}
        </Button>
      </form>
    </Sheet>
  );
}

function SamplePart({ sample, onChoose }: { sample: string; onChoose: (key: string) => void }) {
  const samples = useQuery({
    queryKey: keys.samples,
    queryFn: () => answer(client.GET("/api/v1/samples")),
  });
  return (
    <fieldset className="mt-2">
      <legend className="sr-only">{t("the_sample")}</legend>
      <Trouble error={samples.error} />
      {samples.data?.map((one) => (
        <label key={one.key} className="flex items-start gap-2 border-t border-hairline py-1.5">
          <input
            type="radio"
            name="sample"
            className="mt-1 size-4 accent-thistle"
            checked={sample === one.key}
            onChange={() => onChoose(one.key)}
          />
          <span>
            {one.name}
            <span className="block text-sm text-muted">
              {t("purpose_fields_fields_rules_rules", {
                purpose: one.purpose,
                fields: one.fields,
                rules: one.rules,
              })}
            </span>
          </span>
        </label>
      ))}
    </fieldset>
  );
}

function CopyPart({ copy, onChoose }: { copy: string; onChoose: (key: string) => void }) {
  const forms = useQuery({
    queryKey: keys.forms,
    queryFn: () => answer(client.GET("/api/v1/forms")),
  });
  const options = (forms.data ?? []).map(({ key, name }) => ({ value: key, label: name }));
  return (
    <p className="mt-2">
      {t("with_the_fields_rules_and_set_up")}{" "}
      <ChoicePart
        label={t("form_it_is_a_copy_of")}
        value={copy}
        placeholder={t("which_form")}
        groups={[{ options }]}
        onChoose={onChoose}
      />
    </p>
  );
}
