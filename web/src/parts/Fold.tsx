import { useState, type ReactNode } from 'react';
import { Details } from './layout';

interface FoldProps {
  summary: ReactNode;
  children: () => ReactNode;
  'data-day-place'?: string;
}

/** What is opened to be read, drawn only once it is: a long day stands at once. */
export function Fold({ summary, children, ...data }: FoldProps) {
  const [open, setOpen] = useState(false);
  return (
    <Details {...data} onToggle={(e) => e.target === e.currentTarget && setOpen(e.currentTarget.open)}>
      <summary>{summary}</summary>
      {open && children()}
    </Details>
  );
}
