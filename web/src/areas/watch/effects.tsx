// What a release changed: of each rule the share of tries in which it spoke, before and after.
import { scaleLinear } from "d3-scale";
import { words } from "../../words";
import { Leads } from "./leads";
import { percent, type Watch } from "./queries";

const t = words("watch");

type Effect = Watch["effects"][number];

const before = ({ before, tried_before }: Effect) => before / tried_before;
const after = ({ after, tried_after }: Effect) => after / tried_after;
const moved = (one: Effect) => Math.abs(after(one) - before(one));

export function Effects({ formKey, watch }: { formKey: string; watch: Watch }) {
  const number = watch.effect_of;
  const effects = [...watch.effects].sort((a, b) => moved(b) - moved(a));
  const most = Math.max(0.01, ...effects.flatMap((one) => [before(one), after(one)]));
  return (
    <section aria-labelledby="effects-title">
      <h3 id="effects-title" className="text-xl">
        {t("what_release")} {number ?? ""} {t("changed")}
      </h3>
      {effects.length === 0 ? (
        <p className="mt-1 text-muted">{t("there_is_no_release_before_it_or")}</p>
      ) : (
        <ul className="mt-1 border-t border-edge">
          {effects.map((one) => (
            <li key={one.rule} className="border-b border-hairline py-1.5">
              <p>{inWords(one, number ?? 0)}</p>
              <Moved effect={one} most={most} />
              <div className="flex flex-wrap gap-x-6">
                <span className="text-sm text-muted">
                  {t("before_of_tried_before_tries_before_after", {
                    before: one.before,
                    tried_before: one.tried_before,
                    after: one.after,
                    tried_after: one.tried_after,
                  })}
                </span>
                <Leads formKey={formKey} rule={one.rule} />
              </div>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** “Errors by *Shelf* fell from 8 % to 2 % after release 3.” */
function inWords(one: Effect, release: number) {
  const [was, now] = [percent(one.before, one.tried_before), percent(one.after, one.tried_after)];
  const name = `“${one.name}”`;
  if (one.new) return t("name_is_new_in_release_release_it", { name, release, now });
  if (was === now) return t("name_spoke_in_was_of_the_tries", { name, was, release });
  const went = after(one) < before(one) ? "fell" : "rose";
  return t("name_went_from_was_to_now_of", { name, went, was, now, release });
}

function Moved({ effect, most }: { effect: Effect; most: number }) {
  const x = scaleLinear([0, most], [6, 394]);
  const [was, now] = [x(before(effect)), x(after(effect))];
  return (
    <svg viewBox="0 0 400 14" className="block w-full max-w-md" aria-hidden="true">
      <path d="M6 7H394" className="text-hairline" stroke="currentColor" />
      <path d={`M${was} 7H${now}`} className="text-ink" stroke="currentColor" strokeWidth={2} />
      <circle cx={was} cy={7} r={4.5} className="fill-ground text-ink" stroke="currentColor" />
      <circle cx={now} cy={7} r={4.5} className="text-ink" fill="currentColor" />
    </svg>
  );
}
