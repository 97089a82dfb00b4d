import { ClipPage } from "../live/clip-page";
import { Desk } from "./desk";

/** The Timing desk of a clip. */
export function DeskPage() {
  return <ClipPage screen={Desk} />;
}
