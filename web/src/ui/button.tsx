import type { ComponentProps } from "react";

type Props = ComponentProps<"button"> & { plain?: boolean };

/** A button: a word on a ruled line, filled when it is the thing to do. */
export function Button({ plain, className = "", ...rest }: Props) {
  const look = plain
    ? "text-ink hover:bg-dune"
    : "bg-ink text-sand hover:bg-clay disabled:bg-line disabled:text-soft";
  return (
    <button
      type="button"
      className={`inline-flex min-h-9 items-center gap-2 rounded-[3px] px-3 text-[0.97rem] ${look} ${className}`}
      {...rest}
    />
  );
}
