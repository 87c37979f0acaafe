// What has been released of a form: which release counts, since when, by whom and why.
import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { answer, client } from "../../api/client";
import { Page } from "../../ui/page";
import { Trouble } from "../../ui/trouble";
import { writtenMoment } from "../../ui/written";
import { useForm } from "../form/form";

export function ReleasesPage() {
  const { formKey = "" } = useParams();
  const form = useForm().data;
  const releases = useQuery({
    queryKey: ["releases", formKey, form?.release?.number ?? 0],
    queryFn: () =>
      answer(
        client.GET("/api/forms/{form_key}/releases", { params: { path: { form_key: formKey } } }),
      ),
  });
  return (
    <Page title="Releases" of={form?.name} className="mx-auto w-full max-w-5xl px-6 py-5">
      <Trouble error={releases.error} />
      {releases.data?.length === 0 && (
        <p className="mt-3 border-t border-hairline py-6 text-muted">
          Nothing has been released yet: records can be filled in once the draft is.
        </p>
      )}
      {releases.data && releases.data.length > 0 && (
        <table className="mt-3 w-full border-t border-edge">
          <thead>
            <tr className="border-b border-hairline text-left text-muted *:py-1.5 *:pr-4 *:font-normal">
              <th scope="col">Release</th>
              <th scope="col">Since</th>
              <th scope="col">By</th>
              <th scope="col">What changed, and why</th>
            </tr>
          </thead>
          <tbody>
            {releases.data.map((release, place) => (
              <tr
                key={release.number}
                className="border-b border-hairline align-top *:py-1.5 *:pr-4"
              >
                <th scope="row" className="text-left font-normal whitespace-nowrap">
                  {release.number}
                  {place === 0 && <span className="text-moss"> in use</span>}
                </th>
                <td className="whitespace-nowrap text-muted">
                  {writtenMoment(release.released_at)}
                </td>
                <td className="whitespace-nowrap">{release.released_by ?? "—"}</td>
                <td>{release.note}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Page>
  );
}
