import { lazy, useState, type ComponentType } from 'react';

/**
 * A page or sheet whose script is fetched when it is first shown, or ahead of that: then it stands at once. React keeps
 * what it says meanwhile for 300 ms, however soon the script is there.
 */
export function ownScript<P extends object>(load: () => Promise<ComponentType<P>>) {
  let there: ComponentType<P> | undefined;
  const fetched = () => load().then((page) => (there = page));
  const Later = lazy(() => fetched().then((page) => ({ default: page })));
  const Page = (props: P) => {
    const [Now] = useState<ComponentType<P>>(() => there ?? Later);
    return <Now {...props} />;
  };
  const ahead = () => void fetched().catch(() => {}); // it is fetched again where it is shown, and says then what is wrong
  return { Page, ahead };
}
