// The tools that write several rules at once: recipes, and tiers of proposals.
import { Layers, ScrollText } from "lucide-react";
import { useAddress } from "../../ui/address";
import { Button } from "../../ui/button";
import { words } from "../../words";
import type { FormView } from "../form/form";
import { RecipeSheet } from "./recipe-sheet";
import { TierSheet } from "./tier-sheet";

const t = words("rules");

const NOTHING_OPEN = { sheet: "" };

export function ToolSheets({ form }: { form: FormView }) {
  const [{ sheet }, ask] = useAddress(NOTHING_OPEN);
  const shut = () => ask(NOTHING_OPEN);
  return (
    <>
      <Button onClick={() => ask({ sheet: "recipes" })}>
        <ScrollText size={16} aria-hidden="true" /> {t("recipes_2")}
      </Button>
      <Button onClick={() => ask({ sheet: "tiers" })}>
        <Layers size={16} aria-hidden="true" /> {t("tiers")}
      </Button>
      {sheet === "recipes" && <RecipeSheet form={form} onClose={shut} />}
      {sheet === "tiers" && <TierSheet form={form} onClose={shut} />}
    </>
  );
}
