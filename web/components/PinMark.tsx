/** A mark at a place on a picture, in shares of it. */
export const PinMark = ({ x, y }: { x: number; y: number }) => (
  <span
    aria-hidden="true"
    className="absolute w-[11px] h-[11px] -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-primary outline-1 outline-black/60 pointer-events-none"
    style={{ left: `${x * 100}%`, top: `${y * 100}%` }}
  />
);
