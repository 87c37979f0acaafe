// Which screen answers which address. Each area is fetched when it is first opened.
import { NuqsAdapter } from "nuqs/adapters/react-router/v7";
import { createBrowserRouter, Outlet, type RouteObject } from "react-router";
import { queries } from "./api/queries";
import { type Visitor, visitorQuery } from "./api/session";
import { formQuery } from "./areas/form/form";
import { FormFrame } from "./areas/frame/form-frame";
import { Frame, Landing } from "./areas/frame/frame";
import { NotHere } from "./areas/frame/not-here";
import { words } from "./words";

const t = words("router");

const catalogue = async () => ({
  Component: (await import("./areas/catalogue/catalogue-page")).CataloguePage,
});
const fields = async () => ({ Component: (await import("./areas/fields/fields-page")).FieldsPage });
const rules = async () => ({ Component: (await import("./areas/rules/rules-page")).RulesPage });
const plan = async () => ({ Component: (await import("./areas/plan/plan-page")).PlanPage });
const setup = async () => ({ Component: (await import("./areas/setup/setup-page")).SetupPage });
const history = async () => ({
  Component: (await import("./areas/history/history-page")).HistoryPage,
});
const bench = async () => ({ Component: (await import("./areas/bench/bench-page")).BenchPage });
const cases = async () => ({ Component: (await import("./areas/cases/cases-page")).CasesPage });
const proof = async () => ({ Component: (await import("./areas/cases/proof-page")).ProofPage });
const findings = async () => ({
  Component: (await import("./areas/findings/findings-page")).FindingsPage,
});
const releases = async () => ({
  Component: (await import("./areas/releases/releases-page")).ReleasesPage,
});
const releasing = async () => ({
  Component: (await import("./areas/releases/releasing-page")).ReleasingPage,
});
const impact = async () => ({
  Component: (await import("./areas/releases/impact-page")).ImpactPage,
});
const watch = async () => ({ Component: (await import("./areas/watch/watch-page")).WatchPage });
const people = async () => ({ Component: (await import("./areas/people/people-page")).PeoplePage });
const account = async () => ({
  Component: (await import("./areas/account/account-page")).AccountPage,
});
const desk = async () => ({ Component: (await import("./areas/desk/desk-page")).DeskPage });
const records = async () => ({
  Component: (await import("./areas/records/records-page")).RecordsPage,
});
const approval = async () => ({
  Component: (await import("./areas/records/approval-page")).ApprovalPage,
});
const record = async () => ({
  Component: (await import("./areas/records/record-page")).RecordPage,
});

const imports = async () => ({ Component: (await import("./areas/imports/files-page")).FilesPage });
const messages = async () => ({
  Component: (await import("./areas/messages/messages-page")).MessagesPage,
});
const outbox = async () => ({
  Component: (await import("./areas/messages/outbox-page")).OutboxPage,
});
const access = async () => ({ Component: (await import("./areas/access/access-page")).AccessPage });
const file = async () => ({ Component: (await import("./areas/imports/file-page")).FilePage });

/** The form is asked for while its screen is still being fetched. */
function askForForm({ params: { formKey = "" } }: { params: { formKey?: string } }) {
  const query = formQuery(formKey);
  if (
    queries.getQueryData<Visitor>(visitorQuery.queryKey)?.name &&
    !queries.getQueryData(query.queryKey)
  )
    queries.prefetchQuery(query);
  return null;
}

const fill = async () => ({ Component: (await import("./areas/link/link-page")).FillPage });
const embed = async () => ({ Component: (await import("./areas/link/link-page")).EmbedPage });
const waiting = <p className="p-6">{t("loading")}</p>;

/** The state of every view is in its address. */
const withAddress = (
  <NuqsAdapter>
    <Outlet />
  </NuqsAdapter>
);

const routes: RouteObject[] = [
  { path: "/fill/:linkKey", lazy: fill, hydrateFallbackElement: waiting },
  { path: "/embed/:linkKey", lazy: embed, hydrateFallbackElement: waiting },
  {
    path: "/",
    element: <Frame />,
    hydrateFallbackElement: waiting,
    children: [
      { index: true, element: <Landing /> },
      { path: "forms", lazy: catalogue },
      { path: "desk", lazy: desk },
      { path: "outbox", lazy: outbox },
      { path: "people", lazy: people },
      { path: "account", lazy: account },
      {
        path: "forms/:formKey",
        element: <FormFrame />,
        loader: askForForm,
        // The state of a view is part of its address; a change of that asks for nothing.
        shouldRevalidate: ({ currentParams, nextParams }) =>
          currentParams.formKey !== nextParams.formKey,
        children: [
          { index: true, element: <Landing inForm /> },
          { path: "fields", lazy: fields },
          { path: "rules", lazy: rules },
          { path: "plan", lazy: plan },
          { path: "setup", lazy: setup },
          { path: "history", lazy: history },
          { path: "bench", lazy: bench },
          { path: "cases", lazy: cases },
          { path: "proof", lazy: proof },
          { path: "findings", lazy: findings },
          { path: "impact", lazy: impact },
          { path: "releases", lazy: releases },
          { path: "releases/draft", lazy: releasing },
          { path: "records", lazy: records },
          { path: "records/:number", lazy: record },
          { path: "approval", lazy: approval },
          { path: "messages", lazy: messages },
          { path: "access", lazy: access },
          { path: "imports", lazy: imports },
          { path: "imports/:fileId", lazy: file },
          { path: "watch", lazy: watch },
        ],
      },
      { path: "*", element: <NotHere /> },
    ],
  },
];

export const router = createBrowserRouter([
  { element: withAddress, hydrateFallbackElement: waiting, children: routes },
]);
