import { Link } from "react-router";
import { Page } from "../../ui/page";

export function NotHere() {
  return (
    <Page
      title="Nothing here"
      heading={<h1 className="text-3xl">There is nothing at this address</h1>}
      className="mx-auto max-w-xl px-6 py-16"
    >
      <p className="mt-2">
        It may have been renamed or removed.{" "}
        <Link to="/" className="text-thistle underline">
          Go to the forms
        </Link>{" "}
        and choose from there.
      </p>
    </Page>
  );
}
