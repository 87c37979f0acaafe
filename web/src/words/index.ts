// The texts of the screens: one catalogue by area, with plurals by ICU MessageFormat. A second
// language is a second folder beside `en`.
import { createTranslator } from "use-intl/core";
import access from "./en/access.json";
import account from "./en/account.json";
import api from "./en/api.json";
import bench from "./en/bench.json";
import cases from "./en/cases.json";
import catalogue from "./en/catalogue.json";
import counts from "./en/counts.json";
import desk from "./en/desk.json";
import fields from "./en/fields.json";
import findings from "./en/findings.json";
import form from "./en/form.json";
import formSheet from "./en/formSheet.json";
import frame from "./en/frame.json";
import history from "./en/history.json";
import imports from "./en/imports.json";
import link from "./en/link.json";
import messages from "./en/messages.json";
import people from "./en/people.json";
import plan from "./en/plan.json";
import records from "./en/records.json";
import releases from "./en/releases.json";
import router from "./en/router.json";
import rules from "./en/rules.json";
import setup from "./en/setup.json";
import signIn from "./en/signIn.json";
import ui from "./en/ui.json";
import watch from "./en/watch.json";

const EN = {
  access,
  account,
  api,
  bench,
  cases,
  catalogue,
  counts,
  desk,
  fields,
  findings,
  form,
  formSheet,
  frame,
  history,
  imports,
  link,
  messages,
  people,
  plan,
  records,
  releases,
  router,
  rules,
  setup,
  signIn,
  ui,
  watch,
};

/** What gives the texts of an area by their keys, which are typed. */
export const words = <Area extends keyof typeof EN>(area: Area) =>
  createTranslator<typeof EN, Area>({ locale: "en", messages: EN, namespace: area });
