import { Link } from "react-router";

export function NotHere() {
  return (
    <main className="mx-auto max-w-xl px-6 py-16">
      <h1 className="text-3xl">There is nothing at this address</h1>
      <p className="mt-2">
        It may have been renamed or removed.{" "}
        <Link to="/" className="text-thistle underline">
          Go to the forms
        </Link>{" "}
        and choose from there.
      </p>
    </main>
  );
}
