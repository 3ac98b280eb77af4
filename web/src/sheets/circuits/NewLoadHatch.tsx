/** The hatching by which a picture tells new load from what was there. */
export function NewLoadHatch({ id }: { id: string }) {
  return (
    <defs>
      <pattern id={id} width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="6" height="6" fill="var(--copper)" />
        <line x1="0" y1="0" x2="0" y2="6" stroke="var(--sheet)" strokeWidth="1.6" />
      </pattern>
    </defs>
  );
}
