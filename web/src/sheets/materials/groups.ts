import { msg, say } from '../../words/words';

const names: Record<string, string> = {
  cable: msg('Cable and conductors'),
  containment: msg('Conduit, clips and glands'),
  boards: msg('Boards and devices'),
  supply: msg('Supply arrangement'),
  trench: msg('Works outdoors'),
  earthing: msg('Earthing and bonding'),
  boxes: msg('Boxes'),
  accessories: msg('Accessories and appliances'),
  joints: msg('Joints and small parts'),
  labels: msg('Labels and charts'),
  consumables: msg('Used up by tools'),
  work: msg('Remedial work'),
};

/** The name under which products of a group stand. */
export const groupName = (group: string) => say(names[group] ?? group);

/** Who brings what the company does not buy, and whom it buys for itself. */
export const bringers: { id: string; name: string }[] = [
  { id: 'us', name: msg('we buy it') },
  { id: 'client', name: msg('the client supplies it') },
  { id: 'others', name: msg('the operator or another trade brings it') },
  { id: 'stock', name: msg('out of our stock') },
  { id: 'there', name: msg('it is in place already') },
];
