// Under which keys answers of the server are kept. What goes out of date together begins alike: to
// invalidate the beginning is to ask anew for all of it.

type Text = string | number | null | undefined;

/** What derives from the draft of a form, beside the draft itself: out of date when it changes. */
const draft = (form: string) => ["draft", form] as const;
/** What derives from stored records and releases as well: out of date after a release. */
const live = (form: string) => ["live", form] as const;
/** Answers about one revision of a draft: never out of date. */
const asked = (form: string, revision: Text) => ["asked", form, revision] as const;
const record = (form: string, number: Text) => ["record", form, String(number)] as const;
const records = ["records"] as const;
const messages = (form: string) => [...draft(form), "messages"] as const;
const sentMail = (form: string) => ["sent-mail", form] as const;
const webhooks = (form: string) => ["webhooks", form] as const;
const imports = (form: string) => ["imports", form] as const;
const accounts = ["accounts"] as const;
const tokens = ["tokens"] as const;

export const keys = {
  session: ["session"],
  ownSessions: ["own-sessions"],
  reachable: ["reachable"],
  forms: ["forms"],
  findingCounts: ["finding-counts"],
  choiceLists: ["choice-lists"],
  samples: ["samples"],
  formats: ["formats"],
  functions: ["functions"],
  recipes: ["recipes"],
  colleagues: ["colleagues"],
  serviceDocument: ["service-document"],
  day: (typed: string) => ["day", typed],
  search: (text: string) => ["search", text],
  link: (link: string) => ["link", link],
  linkJudgement: (link: string, release: number, body: unknown) => [
    ...["link", link],
    "judgement",
    release,
    body,
  ],

  form: (form: string) => ["form", form],
  draft,
  history: (form: string) => [...draft(form), "history"],
  turns: (form: string) => [...draft(form), "history", "turns"],
  tiers: (form: string) => [...draft(form), "tiers"],
  cases: (form: string) => [...draft(form), "cases"],
  caseCounts: (form: string, revision?: number) => [
    ...draft(form),
    "case-counts",
    ...(revision === undefined ? [] : [revision]),
  ],
  proof: (form: string) => [...draft(form), "proof"],
  slips: (form: string) => [...draft(form), "slips"],
  draftedCases: (form: string, ...how: unknown[]) => [...draft(form), "drafted-cases", ...how],
  findings: (form: string, revision: number) => [...draft(form), "findings", revision],

  live,
  impact: (form: string, revision: Text, release: Text, again: Text) => [
    ...live(form),
    "impact",
    revision,
    release,
    again,
  ],
  ruleImpact: (form: string, revision: number, rule: unknown) => [
    ...live(form),
    "rule-impact",
    revision,
    rule,
  ],
  releasing: (form: string, ...state: unknown[]) => [...live(form), "releasing", ...state],
  releases: (form: string, newest: number) => [...live(form), "releases", newest],
  releaseChanges: (form: string, revision: Text, before: Text, after: Text) => [
    ...live(form),
    "release-changes",
    revision,
    before,
    after,
  ],
  releaseWork: (form: string) => [...live(form), "release-work"],

  /** Whether anybody has changed the form: asked again and again. */
  formState: (form: string) => ["form-state", form],
  bench: (form: string, revision: number, release: number | null) => [
    ...asked(form, release ?? revision),
    "bench",
    release,
  ],
  ruleReading: (form: string, replaces: string | null, body: unknown) => [
    ...draft(form),
    "rule-reading",
    replaces,
    body,
  ],
  fieldReading: (form: string, replaces: string | null, field: unknown) => [
    ...draft(form),
    "field-reading",
    replaces,
    field,
  ],
  recipeReading: (form: string, revision: number, recipe: string, answers: unknown) => [
    ...asked(form, revision),
    "recipe-reading",
    recipe,
    answers,
  ],
  copyReading: (form: string, rule: unknown, names: unknown) => [
    ...draft(form),
    "copy-reading",
    rule,
    names,
  ],
  ruleFindings: (form: string, revision: number, rule: unknown) => [
    ...asked(form, revision),
    "rule-findings",
    rule,
  ],
  tried: (form: string, revision: Text, what: string, body: unknown) => [
    ...asked(form, revision),
    "tried",
    what,
    body,
  ],

  records,
  recordList: (form: string, query: unknown) => [...records, form, "list", query],
  toApprove: (form: string, offset: number) => [...records, form, "to-approve", offset],
  knownRecords: (form: string, text: unknown) => [...records, form, "known", text],
  benchRecords: (form: string) => [...records, form, "bench"],
  waitingRecords: (person: string) => [...records, "waiting", person],
  record,
  benchRecord: (form: string, number: Text) => [...record(form, number), "bench"],
  recordDifferences: (form: string, number: Text, values: unknown) => [
    ...record(form, number),
    "differences",
    values,
  ],
  desk: (form: string) => ["desk", form],
  judgement: (form: string, release: number, stored: number, body: unknown) => [
    ...["judgement", form],
    release,
    stored,
    body,
  ],
  recordViews: (form: string) => ["record-views", form],
  watch: (form: string, ...query: unknown[]) => ["watch", form, ...query],

  imports,
  importFile: (form: string, file: number) => ["import", form, file],
  importPreview: (form: string, file: number, ...state: unknown[]) => [
    "import-preview",
    form,
    file,
    ...state,
  ],
  rejectedRows: (form: string, file: number, ...state: unknown[]) => [
    "rejected-rows",
    form,
    file,
    ...state,
  ],

  messages,
  messageReading: (form: string, entry: unknown) => [...messages(form), "reading", entry],
  messagePreview: (form: string, entry: unknown, shown: unknown) => [
    ...messages(form),
    "preview",
    entry,
    shown,
  ],
  sentMail,
  sentMailList: (form: string, query: unknown) => [...sentMail(form), "list", query],
  sentMailMessage: (form: string, message: number) => [...sentMail(form), "message", message],
  inbox: (person: string, offset: number) => ["inbox", person, "list", offset],
  inboxMail: (person: string, mail: number) => ["inbox", person, "mail", mail],

  links: (form: string) => ["links", form],
  tokens,
  formTokens: (form: string) => [...tokens, form],
  webhooks,
  webhookTargets: (form: string) => [...webhooks(form), "targets"],
  webhookList: (form: string) => [...webhooks(form), "list"],
  webhookCalls: (form: string, webhook: number, made: Text) => [
    ...webhooks(form),
    "calls",
    webhook,
    made,
  ],

  accounts,
  accountLog: [...accounts, "log"],
  accountSessions: (account: string) => [...accounts, account, "sessions"],
} as const;
