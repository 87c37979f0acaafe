// Who changed what in a form, and when.
import { useParams } from "react-router";
import { useAddress } from "../../ui/address";
import { Page } from "../../ui/page";
import { SearchBox } from "../../ui/search-box";
import { Trouble } from "../../ui/trouble";
import { useForm, useHistory } from "../form/form";
import { Acts } from "./acts";
import { foundIn } from "./finding";

const USUAL = { search: "" };

export function HistoryPage() {
  const { formKey = "" } = useParams();
  const history = useHistory(formKey);
  const form = useForm().data;
  const [{ search }, ask] = useAddress(USUAL);
  const acts = history.data && foundIn(history.data.acts, search);
  return (
    <Page title="History" of={form?.name} className="mx-auto w-full max-w-5xl px-6 py-5">
      <SearchBox
        label="Search the history"
        placeholder="Search people, acts, names"
        value={search}
        onChange={(next) => ask({ search: next })}
      />
      <Trouble error={history.error} />
      {acts && acts.length > 0 && <Acts acts={acts} />}
      {acts?.length === 0 && (
        <p className="mt-3 border-t border-hairline py-6 text-muted">
          {search.trim() ? "Nothing fits. Clear the search." : "Nothing has been changed yet."}
        </p>
      )}
    </Page>
  );
}
