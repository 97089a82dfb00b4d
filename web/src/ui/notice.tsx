/** What went wrong and what to do, where it happened. */
export function Notice({ text, onClose }: { text: string; onClose?: () => void }) {
  return (
    <div
      role="alert"
      className="border-clay bg-chalk flex items-start gap-3 border-l-4 px-3 py-2 text-[0.97rem]"
    >
      <p className="grow">{text}</p>
      {onClose && (
        <button type="button" className="text-soft hover:text-ink min-h-6 px-1" onClick={onClose}>
          close
        </button>
      )}
    </div>
  );
}
