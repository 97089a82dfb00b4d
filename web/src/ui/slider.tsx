import { Slider as Radix } from "radix-ui";

type Props = {
  label: string;
  min: number;
  max: number;
  step: number;
  value: number;
  onChange: (value: number) => void;
};

/** A value along a line. */
export function Slider({ label, min, max, step, value, onChange }: Props) {
  return (
    <Radix.Root
      min={min}
      max={max}
      step={step}
      value={[value]}
      onValueChange={([now]) => now !== undefined && onChange(now)}
      className="relative flex min-h-9 w-full touch-none items-center select-none"
    >
      <Radix.Track className="bg-line relative h-[3px] grow">
        <Radix.Range className="bg-clay absolute h-full" />
      </Radix.Track>
      <Radix.Thumb
        aria-label={label}
        className="bg-chalk border-clay block h-6 w-3.5 rounded-[3px] border-2"
      />
    </Radix.Root>
  );
}
