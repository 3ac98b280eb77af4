import type { Part } from '../api/part';
import { get } from '../api/paths';
import { ChoiceBox, NumberBox, TextBox } from './fields';
import { Fields } from './layout';

/** Choices between schools of practice, each with its reason. */
export function SchoolFields({
  part,
  prefix = '',
  asks = () => true,
}: {
  part: Part;
  prefix?: string;
  asks?: (school: string) => boolean;
}) {
  const bondAt = get(part.value, `${prefix}bondAt`);
  return (
    <Fields style={{ gridTemplateColumns: 'repeat(auto-fill, minmax(min(100%, 270px), 1fr))' }}>
      {asks('zsReading') && (
        <ChoiceBox
          part={part}
          path={`${prefix}zsReading`}
          label="Loop impedance read cold"
          options={[
            { id: 'eighty-percent', name: 'compare with 80 % of the limit' },
            { id: 'corrected', name: 'correct the reading to 70 °C' },
          ]}
          help="80 %: quick and on the safe side. Corrected: keeps long circuits that 80 % would reject; needs the temperature."
        />
      )}
      {asks('rcdTests') && (
        <ChoiceBox
          part={part}
          path={`${prefix}rcdTests`}
          label="Residual-current tests"
          options={[
            { id: 'bs7671_a2', name: 'one timed test at the rating' },
            { id: 'three_test', name: 'also at five times' },
          ]}
          help="One test is what the newer edition asks; many keep five times to catch a slow device."
        />
      )}
      {asks('rcdMonths') && (
        <NumberBox
          part={part}
          path={`${prefix}rcdMonths`}
          label="Owner presses the button every"
          unit="months"
          help="Six by the newer edition, three before it; manufacturers often say one."
        />
      )}
      {asks('notify') && (
        <NumberBox
          part={part}
          path={`${prefix}notifyTotalA`}
          label="Ask the operator first above, in all"
          unit="A"
          help="Operators differ: take yours from its own rules."
        />
      )}
      {asks('notify') && (
        <NumberBox
          part={part}
          path={`${prefix}notifySingleA`}
          label="Ask the operator first above, one device"
          unit="A"
          help="Operators differ: take yours from its own rules."
        />
      )}
      {asks('swaCores') && (
        <ChoiceBox
          part={part}
          path={`${prefix}swaCores`}
          label="Cores of an armoured cable"
          options={[
            { id: 'A', name: 'black is neutral, grey is earth' },
            { id: 'B', name: 'grey is neutral, black is earth' },
          ]}
          help="Brown is line in both. Sleeve neutral and earth at both ends, so that the next person need not guess."
        />
      )}
      {asks('tables') && (
        <ChoiceBox
          part={part}
          path={`${prefix}tables`}
          label="National tables"
          options={[
            { id: 'bs7671', name: 'BS 7671' },
            { id: 'iec60364', name: 'IEC 60364 as it stands' },
            { id: 'sans10142', name: 'SANS 10142-1' },
            { id: 'is732', name: 'IS 732' },
          ]}
          help="Voltage drop, ambient temperature, voltage factor and cover as the country has them. What its rules differ in beside these is for the signatory."
        />
      )}
      {asks('penSplit') && (
        <ChoiceBox
          part={part}
          path={`${prefix}penSplit`}
          label="TN-C-S: neutral and earth part"
          options={[
            { id: 'operator', name: 'in the operator’s equipment' },
            { id: 'main-board', name: 'at the main board, by the country’s rule' },
          ]}
          help="One place, never two. Split at the main board, the conductor to it is thick enough and never switched."
        />
      )}
      {asks('bondAt') && (
        <ChoiceBox
          part={part}
          path={`${prefix}bondAt`}
          label="Split phase: neutral and ground joined"
          options={[
            { id: 'first-disconnect', name: 'in each service disconnect with none ahead' },
            { id: 'meter', name: 'in the meter base, by the utility’s rule' },
          ]}
          help="The service disconnect is what the code asks, each of several its own; some utilities want the joint in their meter base. Never again behind it."
        />
      )}
      {asks('bondAt') && bondAt === 'meter' && (
        <TextBox
          part={part}
          path={`${prefix}bondRule`}
          label="The utility’s written rule for it"
          help="Number or letter, with which the authority agrees: without it the job is not ready."
        />
      )}
      {asks('splitCode') && (
        <ChoiceBox
          part={part}
          path={`${prefix}splitCode`}
          label="Split phase: code and its words"
          options={[
            { id: 'nec', name: 'United States' },
            { id: 'cec', name: 'Canada' },
          ]}
          help="Canada: bonding and grounding conductors by their own names, the drop is a limit, two rods whatever they read, the load by its own rule."
        />
      )}
      {asks('loadMethod') && (
        <ChoiceBox
          part={part}
          path={`${prefix}loadMethod`}
          label="Split phase: service load"
          options={[
            { id: 'existing', name: 'existing dwelling with added load' },
            { id: 'optional', name: 'optional method, one dwelling' },
            { id: 'standard', name: 'standard method' },
            { id: 'measured', name: 'recorded peak of 30 days or a year' },
          ]}
          help="Existing: the short one for added load. Optional: a new service. Standard: where the others may not be used, larger. A recorded peak is the truest where there is one."
        />
      )}
      {asks('surgeNeed') && (
        <ChoiceBox
          part={part}
          path={`${prefix}surgeNeed`}
          label="Need for surge protection"
          options={[
            { id: 'consequence', name: 'by what an overvoltage would cost' },
            { id: 'risk-level', name: 'by the calculated risk level' },
          ]}
          help="The newer edition asks for the consequence and lets an owner accept a loss; other rule sets calculate a level from lines and lightning."
        />
      )}
    </Fields>
  );
}
