import { Screens } from "../ui/screens";
import { useMe } from "../ui/me";
import { Yours } from "./yours";

const MAY: Record<string, string> = {
  coach: "You may do everything, as at the machine itself.",
  assistant:
    "You may mark, add and read. Taking away, exporting the yard and what concerns others is the coach’s.",
};

/** Who is signed in on this device. */
export function MePage() {
  const me = useMe();
  return (
    <main className="mx-auto max-w-[980px] px-6 pt-4 pb-16">
      <header className="border-ink border-b-2 pb-3">
        <Screens />
        <h1 className="mt-1 text-[1.75rem] leading-tight font-medium">
          {me.at_the_machine
            ? "At this machine nobody signs in."
            : `${me.name ?? ""} is signed in on this device.`}
        </h1>
        <p className="text-soft">{MAY[me.role ?? ""]}</p>
      </header>
      {!me.at_the_machine && <Yours />}
    </main>
  );
}
