// What somebody typed and is not yet saved lies in the browser under their own name: on a phone
// that several people use nobody finds another's, and nobody sends it.
let owner = '';
let waiting: ((person: string) => void)[] = [];

/** Whose the page is: the person who is signed in. */
export const ownedBy = (person: string) => {
  owner = person;
  if (!owner) return;
  const told = waiting;
  waiting = [];
  told.forEach((tell) => tell(owner));
};

/** The person, empty while it is not known who it is. */
export const ownerNow = () => owner;

/** The person, once it is known who it is. */
export const whenOwned = () => (owner ? Promise.resolve(owner) : new Promise<string>((tell) => waiting.push(tell)));

/** The key of the person's own under which something is kept in the browser. */
export const own = (name: string) => (owner ? `arvelt:${owner}:${name}` : `arvelt:${name}`);
