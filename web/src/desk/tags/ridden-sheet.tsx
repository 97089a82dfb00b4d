import { type Ridden, RiddenForm } from "./ridden-form";
import { Sheet } from "./sheet";

type Props = {
  open: boolean;
  /** The stretch in words: from when to when, and what was found. */
  stretch: string;
  value: Ridden;
  onClose: () => void;
  onSave: (ridden: Ridden) => void;
  onRemove: (() => void) | null;
};

/** What was ridden over a stretch: confirmed, or set by the coach. */
export function RiddenSheet({ open, stretch, value, onClose, onSave, onRemove }: Props) {
  return (
    <Sheet open={open} title="What was ridden here?" onClose={onClose}>
      <p className="text-soft text-sm">{stretch}</p>
      <RiddenForm value={value} onSave={onSave} onRemove={onRemove} />
    </Sheet>
  );
}
