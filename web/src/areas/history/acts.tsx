// What was done, by whom and when, newest first.
import type { Schemas } from "../../api/client";
import { writtenMoment } from "../../ui/written";

export function Acts({ acts }: { acts: readonly Schemas["ActView"][] }) {
  return (
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
  );
}
