// Who changed what in a form, and when.
import { useParams } from "react-router";
import { useAddress } from "../../ui/address";
import { Page } from "../../ui/page";
import { SearchBox } from "../../ui/search-box";
import { Trouble } from "../../ui/trouble";
import { writtenMoment } from "../../ui/written";
import { useForm, useHistory } from "../form/form";
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
      {acts && acts.length > 0 && (
        <table className="mt-3 w-full border-t border-edge">
          <thead>
            <tr className="border-b border-hairline text-left text-muted *:py-1.5 *:pr-4 *:font-normal">
              <th scope="col">When</th>
              <th scope="col">Who</th>
              <th scope="col">What</th>
              <th scope="col">Of</th>
            </tr>
          </thead>
          <tbody>
            {acts.map((act, place) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: several acts can share their second
              <tr key={place} className="border-b border-hairline align-top *:py-1.5 *:pr-4">
                <td className="whitespace-nowrap text-muted">{writtenMoment(act.at)}</td>
                <td className="whitespace-nowrap">{act.person ?? "—"}</td>
                <td className="whitespace-nowrap">{act.act}</td>
                <td>
                  {act.subject}
                  {act.note && <span className="block text-sm text-muted">{act.note}</span>}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {acts?.length === 0 && (
        <p className="mt-3 border-t border-hairline py-6 text-muted">
          {search.trim() ? "Nothing fits. Clear the search." : "Nothing has been changed yet."}
        </p>
      )}
    </Page>
  );
}
