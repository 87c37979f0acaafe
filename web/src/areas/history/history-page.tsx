// Who changed what in a form, when and why.

import { useParams } from "react-router";
import { answer, client } from "../../api/client";
import { keys } from "../../api/keys";
import { Page } from "../../ui/page";
import { words } from "../../words";
import { useForm } from "../form/form";
import { FoundActs } from "./found-acts";

const t = words("history");

export function HistoryPage() {
  const { formKey = "" } = useParams();
  const form = useForm().data;
  return (
    <Page title={t("history")} of={form?.name} className="mx-auto w-full max-w-6xl px-6 py-5">
      <FoundActs
        queryKey={keys.history(formKey)}
        fetch={(query) =>
          answer(
            client.GET("/api/v1/forms/{form_key}/history", {
              params: { path: { form_key: formKey }, query },
            }),
          )
        }
        file={`/api/v1/forms/${formKey}/history-file`}
      />
    </Page>
  );
}
