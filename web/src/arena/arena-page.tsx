import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { api, type Schemas, taken } from "../api/client";
import { yardQuery } from "../api/queries";
import { plusMinus } from "../ui/plus-minus";
import { Choice } from "../ui/choice";
import { Drawing } from "../ui/drawing";
import { Notice } from "../ui/notice";
import { SaveTable, threeCells } from "../ui/save-table";
import { Screens } from "../ui/screens";
import { ArenaPlan } from "../ui/arena-plan";
import { FigureForm } from "./figure-form";
import { asked, FIRST, type Wish } from "./wish";

/** Figures of the arena: how long they are, whether and where they fit, what strides to expect. */
export function ArenaPage() {
  const [wish, setWish] = useState<Wish>(FIRST);
  const yard = useQuery(yardQuery);
  const body = asked(wish);
  const drawn = useQuery({
    queryKey: ["figure", body],
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () => taken(api.POST("/api/arena/figure", { body })),
  });
  const f = drawn.data;
  return (
    <main className="mx-auto max-w-[1240px] px-6 pt-4 pb-10">
      <header className="border-ink border-b-2 pb-3">
        <Screens />
        <h1
          className="mt-1 min-h-[4.2rem] text-[1.6rem] leading-tight font-medium"
          aria-live="polite"
        >
          {f?.says ?? "Does the figure fit?"}
        </h1>
      </header>
      <div className="mt-4 grid gap-6 lg:grid-cols-[300px_minmax(0,1fr)]">
        <FigureForm wish={wish} onWish={setWish} letters={f?.letters ?? []}>
          <Choice
            label="Horse"
            value={wish.horse === null ? "" : String(wish.horse)}
            onChange={(v) => setWish({ ...wish, horse: v ? Number(v) : null })}
          >
            <option value="">any horse</option>
            {yard.data?.horses.map((h) => (
              <option key={h.id} value={h.id}>
                {h.name}
              </option>
            ))}
          </Choice>
        </FigureForm>
        <div className="min-w-0">
          {drawn.isError && <Notice text={drawn.error.message} />}
          {f && (
            <Drawing name="arena">
              <Figure wish={wish} drawn={f} onWish={setWish} />
            </Drawing>
          )}
          {f && <Strides drawn={f} wish={wish} />}
        </div>
      </div>
    </main>
  );
}

type FigureProps = {
  wish: Wish;
  drawn: Schemas["FigureDrawn"];
  onWish: (wish: Wish) => void;
};

function Figure({ wish, drawn, onWish }: FigureProps) {
  const { line, room, path } = drawn;
  // A click on the plan moves the circle along its line to the nearest place.
  const move = (x: number, y: number) => {
    const [[ax = 0, ay = 0] = [], [bx = 0, by = 0] = []] = line ?? [];
    const length = Math.hypot(bx - ax, by - ay);
    if (length === 0) return;
    const along = ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / length;
    const at_m = Math.round(Math.min(Math.max(along, 0), length) * 2) / 2;
    onWish({ ...wish, at_m });
  };
  const way = (points: readonly (readonly number[])[]) =>
    points.map(([x, y], k) => `${k === 0 ? "M" : "L"}${y ?? 0} ${x ?? 0}`).join("");
  return (
    <ArenaPlan
      size={wish.arena}
      letters={drawn.letters}
      label={drawn.says}
      onPlace={wish.kind === "circle" ? move : undefined}
    >
      {line && (
        <path
          d={way(line)}
          fill="none"
          stroke="var(--soft)"
          strokeWidth={0.12}
          strokeDasharray="0.6 0.5"
        />
      )}
      {room && (
        <path d={way(room)} fill="none" stroke="var(--clay)" strokeWidth={0.5} opacity={0.55} />
      )}
      <path
        d={way(path)}
        fill="none"
        stroke={drawn.fits ? "var(--cool)" : "var(--clay)"}
        strokeWidth={0.4}
        strokeDasharray={drawn.fits ? undefined : "1 0.7"}
        strokeLinejoin="round"
      />
    </ArenaPlan>
  );
}

function Strides({ drawn, wish }: { drawn: Schemas["FigureDrawn"]; wish: Wish }) {
  const { counted, row_says } = drawn;
  return (
    <div className="mt-4 grid gap-6 md:grid-cols-2">
      <section aria-label="Strides expected">
        <h2 className="text-[1.2rem] font-medium">
          Strides to expect on {drawn.length_m.toFixed(1)} m{" "}
          <SaveTable
            name="strides-to-expect"
            columns={[
              ...["gait", "strides", "strides_lo", "strides_hi"],
              ...["stride_m", "stride_m_lo", "stride_m_hi", "from"],
            ]}
            rows={() =>
              drawn.strides.map((s) => [
                ...[s.gait, ...threeCells(s.strides), ...threeCells(s.stride_m), s.from],
              ])
            }
          />
        </h2>
        <table className="w-full text-[0.95rem]">
          <tbody>
            {drawn.strides.map((s) => (
              <tr key={s.gait} className="border-line border-b align-baseline">
                <th scope="row" className="py-1 text-left font-normal">
                  {s.gait}
                </th>
                <td className="text-right font-mono">{plusMinus(s.strides, 1, 1)}</td>
                <td className="text-soft pl-3 text-sm">
                  at {plusMinus(s.stride_m, 1, 2)} m · {s.from}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <section aria-label="Back from a count" className="flex flex-col gap-2">
        {counted && (
          <p>
            {wish.counted} strides on it make a stride of{" "}
            <span className="font-mono">{plusMinus(counted, 1, 2)} m</span>.
          </p>
        )}
        {row_says && <p className={row_says.includes("too much") ? "text-clay" : ""}>{row_says}</p>}
        {wish.kind === "circle" && (
          <p className="text-soft text-sm">
            The thick part of the line is where this circle may begin. Circles below 10 m are for
            horses that are ready for them (common practice).
          </p>
        )}
      </section>
    </div>
  );
}
