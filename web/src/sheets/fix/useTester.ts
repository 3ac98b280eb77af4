import { useState } from 'react';
import { useMe } from '../../api/job';

/** What a person isolates with: their lock and tag, and their tester. It is remembered on this device. */
export interface Kit {
  lockTag: string;
  tester: string;
  testerKind: '' | 'contact' | 'meter' | 'sensor';
}

const slot = (person: string) => `arvelt:kit:${person}`;
const none: Kit = { lockTag: '', tester: '', testerKind: '' };

function stored(person: string): Kit {
  try {
    return { ...none, ...(JSON.parse(localStorage.getItem(slot(person)) ?? '{}') as Partial<Kit>) };
  } catch {
    return none;
  }
}

/** The kit of whoever is signed in, and how to remember another. */
export function useTester() {
  const person = useMe().data?.id ?? '';
  const [typed, setTyped] = useState<Kit>();
  const kit = typed ?? stored(person);
  return { kit, setKit: setTyped, remember: () => localStorage.setItem(slot(person), JSON.stringify(kit)) };
}
