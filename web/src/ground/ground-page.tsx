import { DeskPage } from "../desk/desk-page";
import { GroundDesk } from "./ground-desk";

/** The Ground desk of a clip. */
export function GroundPage() {
  return <DeskPage screen={GroundDesk} />;
}
