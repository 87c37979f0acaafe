import { createBrowserRouter, Navigate } from "react-router";
import { BenchPage } from "./areas/bench/bench-page";
import { CataloguePage } from "./areas/catalogue/catalogue-page";
import { FormFrame } from "./areas/frame/form-frame";
import { Frame } from "./areas/frame/frame";
import { NotHere } from "./areas/frame/not-here";
import { RecordPage } from "./areas/records/record-page";
import { RecordsPage } from "./areas/records/records-page";
import { RulesPage } from "./areas/rules/rules-page";

export const router = createBrowserRouter([
  {
    path: "/",
    element: <Frame />,
    children: [
      { index: true, element: <CataloguePage /> },
      {
        path: "forms/:formKey",
        element: <FormFrame />,
        children: [
          { index: true, element: <Navigate to="rules" replace /> },
          { path: "rules", element: <RulesPage /> },
          { path: "bench", element: <BenchPage /> },
          { path: "records", element: <RecordsPage /> },
          { path: "records/:number", element: <RecordPage /> },
        ],
      },
      { path: "*", element: <NotHere /> },
    ],
  },
]);
