// What holds a record up: the list shrinks as it is filled in.
import type { ReactNode } from "react";
import { Facet } from "../../ui/facet";
import { words } from "../../words";
import { heldBy, type Judgement } from "./judging";

const t = words("formSheet");

type Props = { judgement: Judgement; held: boolean; linkTo: (key: string) => ReactNode };

export function HoldBanner({ judgement, held, linkTo }: Props) {
  if (!judgement.save.on_hold) return null;
  const missing = heldBy(judgement);
  return (
    <div className="mb-3 border-y border-hairline py-2 text-plum">
      <p className="flex items-center gap-1.5 font-semibold">
        <Facet level="hold" size={15} />
        {held ? t("this_record_is_on_hold") : t("saving_puts_this_record_on_hold")}
      </p>
      {missing.length > 0 ? (
        <p>
          {t("still_missing")}{" "}
          {missing.map((message, position) => (
            <span key={message.text}>
              {position > 0 && ", "}
              {linkTo(message.fields[0] ?? "")}
            </span>
          ))}
        </p>
      ) : (
        <p>{t("complete_a_steward_can_release_it_from")}</p>
      )}
    </div>
  );
}
