import { Link } from "react-router";
import { Page } from "../../ui/page";
import { words } from "../../words";

const t = words("frame");

export function NotHere() {
  return (
    <Page
      title={t("nothing_here")}
      heading={<h1 className="text-3xl">{t("there_is_nothing_at_this_address")}</h1>}
      className="mx-auto max-w-xl px-6 py-16"
    >
      <p className="mt-2">
        {t("it_may_have_been_renamed_or_removed")}{" "}
        <Link to="/" className="text-thistle underline">
          {t("go_to_the_forms")}
        </Link>{" "}
        {t("and_choose_from_there")}
      </p>
    </Page>
  );
}
