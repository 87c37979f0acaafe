// Where one goes on from a rule.
/** The records that violate a rule now, and the rule itself. */
import { Link } from "react-router";
import { words } from "../../words";

const t = words("watch");

export function Leads({ formKey, rule }: { formKey: string; rule: string }) {
  if (rule === "") return null;
  return (
    <span className="flex gap-4 text-sm">
      <Link to={`/forms/${formKey}/records?violates=${rule}`} className="underline">
        {t("records_that_violate_it")}
      </Link>
      <Link to={`/forms/${formKey}/rules?rule=${rule}`} className="underline">
        {t("the_rule")}
      </Link>
    </span>
  );
}
