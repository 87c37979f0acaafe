// Recipes: what people build again and again, made of ordinary rules by naming the fields.

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { Button } from "../../ui/button";
import { ChoicePart } from "../../ui/choice-part";
import { ListInput } from "../../ui/list-input";
import { Sentence } from "../../ui/sentence";
import { Sheet } from "../../ui/sheet";
import { Trouble } from "../../ui/trouble";
import { writtenNumber } from "../../ui/written";
import { words } from "../../words";
import { useDraftAct } from "../form/draft-act";
import type { FormView } from "../form/form";
import { answersOf } from "./operand-part";

const t = words("rules");

type Recipe = Schemas["RecipeView"];
type Slot = Recipe["slots"][number];
type Answers = Record<string, string[]>;
type Props = { form: FormView; onClose: () => void };

export function RecipeSheet({ form, onClose }: Props) {
  const recipes = useQuery({
    queryKey: keys.recipes,
    queryFn: () => answer(client.GET("/api/v1/recipes")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const [chosen, setChosen] = useState<string | null>(null);
  const recipe = recipes.data?.find((one) => one.key === chosen);
  return (
    <Sheet title={recipe?.name ?? t("recipes")} open onOpenChange={(open) => !open && onClose()}>
      <Trouble error={recipes.error} />
      {recipe ? (
        <Following form={form} recipe={recipe} onBack={() => setChosen(null)} onDone={onClose} />
      ) : (
        <ul>
          {recipes.data?.map(({ key, name, says }) => (
            <li key={key} className="border-t border-hairline">
              <button
                type="button"
                className="block w-full px-2 py-2 text-left hover:bg-tint"
                onClick={() => setChosen(key)}
              >
                <span className="font-serif text-lg text-thistle">{name}</span>
                <span className="block text-muted">{says}</span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </Sheet>
  );
}

type FollowingProps = { form: FormView; recipe: Recipe; onBack: () => void; onDone: () => void };

function Following({ form, recipe, onBack, onDone }: FollowingProps) {
  const [answers, setAnswers] = useState<Answers>({});
  const path = { form_key: form.key, recipe_key: recipe.key };
  const reading = useQuery({
    queryKey: keys.recipeReading(form.key, form.revision, recipe.key, answers),
    queryFn: () =>
      answer(
        client.POST("/api/v1/forms/{form_key}/recipes/{recipe_key}/read", {
          params: { path },
          body: { answers },
        }),
      ),
    placeholderData: (before) => before,
  });
  const use = useDraftAct(form.key, {
    act: () =>
      answer(
        client.POST("/api/v1/forms/{form_key}/recipes/{recipe_key}", {
          params: { path },
          body: { answers },
        }),
      ),
    notice: ({ length }) =>
      t("count_rules_were_added", { count: length, countShown: writtenNumber(length) }),
    undo: true,
    done: onDone,
  });
  const problems = reading.data?.problems ?? [];
  return (
    <>
      <p className="text-muted">{recipe.says}</p>
      <div className="mt-3">
        {recipe.slots.map((slot) => (
          <div key={slot.key} className="border-t border-hairline py-1.5">
            <span>{slot.label}: </span>
            <SlotPart
              form={form}
              slot={slot}
              answers={answers}
              onChange={(given) => setAnswers({ ...answers, [slot.key]: given })}
            />
            {problems
              .filter((one) => one.place === slot.key && answers[slot.key]?.every(Boolean))
              .map((one) => (
                <p key={one.message} className="text-sm text-madder">
                  {one.message} {one.remedy}
                </p>
              ))}
          </div>
        ))}
      </div>
      <div role="status" className="mt-3 min-h-10">
        {problems.length === 0 && reading.data && (
          <>
            <span className="text-muted">{t("these_rules_will_be_added")}</span>
            <ol className="list-decimal pl-6">
              {reading.data.sentences.map((sentence) => {
                const text = sentence.map((one) => one.text).join("");
                return (
                  <li key={text}>
                    <Sentence segments={sentence} />
                  </li>
                );
              })}
            </ol>
          </>
        )}
      </div>
      <Trouble error={use.error} />
      <div className="mt-3 flex gap-2">
        <Button
          look="solid"
          busy={problems.length > 0 || !reading.data || use.isPending}
          onClick={() => use.mutate()}
        >
          {t("add_these_rules")}
        </Button>
        <Button onClick={onBack}>{t("another_recipe")}</Button>
      </div>
    </>
  );
}

type SlotProps = {
  form: FormView;
  slot: Slot;
  answers: Answers;
  onChange: (given: string[]) => void;
};

function SlotPart({ form, slot, answers, onChange }: SlotProps) {
  const owner = form.fields.find(({ field }) => field.key === answers[slot.choice_of ?? ""]?.[0]);
  const options = slot.choice_of
    ? ((owner && answersOf(owner)) ?? []).map(({ value, label }) => ({ value, label }))
    : form.fields
        .filter(({ field }) => slot.types.length === 0 || slot.types.includes(field.type))
        .map(({ field }) => ({ value: field.key, label: field.label }));
  const given = answers[slot.key] ?? [];
  if (slot.links) return <Links form={form} given={given} onChange={onChange} />;
  if (slot.many)
    return (
      <ListInput
        label={slot.label}
        italic
        empty={t("which_fields")}
        inOrderChosen
        values={given}
        options={options}
        onChange={onChange}
      />
    );
  return (
    <ChoicePart
      label={slot.label}
      italic={!slot.choice_of}
      value={given[0] ?? ""}
      placeholder={slot.choice_of ? t("which_answer") : t("which_field")}
      groups={[{ options }]}
      onChoose={(one) => onChange([one])}
    />
  );
}

const LINK = 3; // names: the field, its answer, and the field that this opens
type LinksProps = { form: FormView; given: string[]; onChange: (given: string[]) => void };

/** The links of a chain, each a sentence; one more begins at the field that the last one opened. */
function Links({ form, given, onChange }: LinksProps) {
  const names = given.length > 0 ? given : ["", "", ""];
  const links = Array.from({ length: names.length / LINK }, (_, at) =>
    names.slice(at * LINK, at * LINK + LINK),
  );
  const put = (at: number, place: number, name: string) =>
    onChange(names.map((one, index) => (index === at * LINK + place ? name : one)));
  const answering = form.fields.filter((view) => answersOf(view));
  const named = (views: typeof form.fields) =>
    views.map(({ field }) => ({ value: field.key, label: field.label }));
  const [, , opened = ""] = links.at(-1) ?? [];
  const further = answering.some(({ field }) => field.key === opened);
  return (
    <ul>
      {links.map(([governor = "", answer = "", opens = ""], at) => {
        const owner = form.fields.find(({ field }) => field.key === governor);
        const number = at + 1;
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: a link has no identity but its place
          <li key={at} className="flex flex-wrap items-baseline gap-x-1.5 py-0.5">
            {t("when_2")}
            <ChoicePart
              label={t("field_of_link_number", { number })}
              italic
              value={governor}
              placeholder={t("which_field")}
              groups={[{ options: named(answering) }]}
              onChoose={(name) => put(at, 0, name)}
            />
            {t("is")}
            <ChoicePart
              label={t("answer_of_link_number", { number })}
              value={answer}
              placeholder={t("which_answer")}
              groups={[
                {
                  options: ((owner && answersOf(owner)) ?? []).map(({ value, label }) => ({
                    value,
                    label,
                  })),
                },
              ]}
              onChoose={(name) => put(at, 1, name)}
            />
            ,
            <ChoicePart
              label={t("field_that_link_number_opens", { number })}
              italic
              value={opens}
              placeholder={t("which_field")}
              groups={[{ options: named(form.fields) }]}
              onChoose={(name) => put(at, 2, name)}
            />
            {t("is_asked")}
            {links.length > 1 && (
              <Button
                look="quiet"
                aria-label={t("remove_link_number", { number })}
                onClick={() =>
                  onChange(names.filter((_, index) => Math.floor(index / LINK) !== at))
                }
              >
                {t("remove")}
              </Button>
            )}
          </li>
        );
      })}
      <li>
        <Button
          look="quiet"
          onClick={() => onChange([...names, further ? opened : (links.at(-1)?.[0] ?? ""), "", ""])}
        >
          {t("one_more_link")}
        </Button>
      </li>
    </ul>
  );
}
