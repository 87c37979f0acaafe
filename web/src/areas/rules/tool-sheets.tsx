// The tools that write several rules at once: recipes, and tiers of proposals.
import { Layers, ScrollText } from "lucide-react";
import { useState } from "react";
import { Button } from "../../ui/button";
import type { FormView } from "../frame/form";
import { RecipeSheet } from "./recipe-sheet";
import { TierSheet } from "./tier-sheet";

export function ToolSheets({ form }: { form: FormView }) {
  const [open, setOpen] = useState<"recipes" | "tiers" | null>(null);
  const shut = () => setOpen(null);
  return (
    <>
      <Button onClick={() => setOpen("recipes")}>
        <ScrollText size={16} aria-hidden="true" /> Recipes…
      </Button>
      <Button onClick={() => setOpen("tiers")}>
        <Layers size={16} aria-hidden="true" /> Tiers…
      </Button>
      {open === "recipes" && <RecipeSheet form={form} onClose={shut} />}
      {open === "tiers" && <TierSheet form={form} onClose={shut} />}
    </>
  );
}
