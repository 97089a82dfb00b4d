import type { Schemas } from "../api/client";
import { Button } from "../ui/button";
import type { DeskStore } from "../live/clip-store";

/** One plain question with its evidence, asked until it is answered. */
export function SlowQuestion({ store, desk }: { store: DeskStore; desk: Schemas["Desk"] }) {
  const question = desk.slow_question;
  if (!question) return null;
  const say = (slow_factor: number) => store.changeSettings({ slow_factor, slow_confirmed: true });
  const yes =
    question.factor === 1 ? "Yes, at normal speed" : `Yes, slow motion ${question.factor}×`;
  return (
    <div
      role="alert"
      className="border-clay bg-chalk flex items-center gap-3 border-l-4 px-3 py-1.5"
    >
      <p className="grow">{question.says}</p>
      <Button onClick={() => say(question.factor)}>{yes}</Button>
      <Button plain onClick={() => say(desk.settings.slow_factor)}>
        No, as it is
      </Button>
    </div>
  );
}
