import { DeskPage } from "../live/clip-page";
import { GroundDesk } from "./ground-desk";

/** The Ground desk of a clip. */
export function GroundPage() {
  return <DeskPage screen={GroundDesk} />;
}
