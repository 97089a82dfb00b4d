import { CoachOnly } from "./me";
import { ShareLink } from "./share-link";

type Props = {
  /** Address before the reader's name. */
  way: string;
  /** What comes behind it. */
  query?: string;
  /** The same figures as a table. */
  table?: string;
  /** The session whose report a link may show. */
  session?: number;
};

/** Reports on paper, for the coach and for the rider. */
export function Reports({ way, query = "", table, session }: Props) {
  const link = "text-clay underline underline-offset-3";
  return (
    <p className="text-sm">
      On paper:{" "}
      <a className={link} href={`${way}coach${query}`} target="_blank" rel="noreferrer">
        for the coach
      </a>
      ,{" "}
      <a className={link} href={`${way}rider${query}`} target="_blank" rel="noreferrer">
        for the rider
      </a>
      <CoachOnly>
        {table && (
          <>
            {" · "}
            <a className={link} href={table} download>
              as a table (CSV)
            </a>
          </>
        )}
        {session !== undefined && (
          <>
            {" · "}
            <ShareLink of={{ session }} what="the rider’s report" />
          </>
        )}
      </CoachOnly>
    </p>
  );
}
