import { Link } from "react-router";

/** Shown where there is no screen, or a screen failed. */
export function Lost() {
  return (
    <main className="mx-auto max-w-xl p-10">
      <h1 className="text-2xl">There is nothing here.</h1>
      <p className="text-soft mt-2">The address may be old, or the clip was removed.</p>
      <Link className="text-clay mt-4 inline-block underline" to="/">
        Back to the yard
      </Link>
    </main>
  );
}
