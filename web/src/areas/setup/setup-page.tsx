// The set-up of a form: its name and zone, sections, layouts, conditions, starters and lists.

import type { KeyboardEvent } from "react";
import { useParams } from "react-router";
import { answer, client, Refused } from "../../api/client";
import { useMay } from "../../api/session";
import { Button } from "../../ui/button";
import { useKept } from "../../ui/kept";
import { isStoreKey } from "../../ui/keys";
import { Page } from "../../ui/page";
import { ProblemList, Trouble } from "../../ui/trouble";
import { words } from "../../words";
import { useDraftAct } from "../form/draft-act";
import { type FormView, useForm } from "../form/form";
import { RemoveForm } from "./remove-form";
import { type Setup, sentOf, setupOf } from "./setup-draft";
import { Identity, SetupParts } from "./setup-parts";
import { SharedLists } from "./shared-lists";

const t = words("setup");

export function SetupPage() {
  const { formKey = "" } = useParams();
  const form = useForm().data;
  return form ? <SetupOf key={formKey} form={form} /> : null;
}

function SetupOf({ form }: { form: FormView }) {
  const mayEdit = useMay("edit_draft");
  const mayRelease = useMay("release");
  const kept = useKept<Setup>(`setup:${form.key}`, setupOf(form));
  // What has not been touched follows the newest version.
  const setup = kept.dirty ? kept.value : setupOf(form);
  const put = (part: Partial<Setup>) => kept.change({ ...setup, ...part });
  const store = useDraftAct(form.key, {
    act: () =>
      answer(
        client.PUT("/api/v1/forms/{form_key}/setup", {
          params: { path: { form_key: form.key } },
          body: sentOf(setup),
        }),
      ),
    shown: (stored) => kept.forget(setupOf(stored)),
    notice: () => t("set_up_saved"),
  });
  function onKeyDown(event: KeyboardEvent) {
    if (isStoreKey(event) && kept.dirty && !store.isPending) store.mutate();
  }
  const newer = store.error instanceof Refused ? store.error.problem.revision : undefined;
  return (
    <Page
      title={t("set_up")}
      of={form.name}
      className="mx-auto w-full max-w-5xl px-6 py-5"
      {...(mayEdit && { onKeyDown })}
    >
      {form.problems.length > 0 && (
        <div className="mb-3 text-madder">
          <ProblemList items={form.problems} />
        </div>
      )}
      <fieldset disabled={!mayEdit} className="contents">
        <Identity form={form} setup={setup} onChange={put} />
        <SetupParts form={form} setup={setup} onChange={put} />
      </fieldset>
      <div className="sticky bottom-0 mt-4 border-t border-edge bg-ground py-2">
        <Trouble error={store.error} />
        {newer && (
          <Button className="mt-1 mb-2" onClick={() => put({ revision: newer })}>
            {t("keep_mine")}
          </Button>
        )}
        {mayEdit && (
          <span className="flex gap-2">
            <Button
              look="solid"
              busy={!kept.dirty || store.isPending}
              onClick={() => store.mutate()}
            >
              {t("save_set_up")}
            </Button>
            {kept.dirty && (
              <Button
                onClick={() => {
                  kept.forget(setupOf(form));
                  store.reset();
                }}
              >
                {t("discard_my_changes")}
              </Button>
            )}
          </span>
        )}
      </div>
      <SharedLists form={form} mayEdit={mayEdit} />
      {mayRelease && (
        <div className="mt-6 flex border-t border-hairline pt-3">
          <RemoveForm form={form} />
        </div>
      )}
    </Page>
  );
}
