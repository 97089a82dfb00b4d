import { ClipPage } from "../live/clip-page";
import { GroundDesk } from "./ground-desk";

/** The Ground desk of a clip. */
export function GroundPage() {
  return <ClipPage screen={GroundDesk} />;
}
