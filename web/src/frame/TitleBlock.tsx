import { say } from '../words/words';
import { styled } from '@mui/material/styles';
import type { Of } from '../api/client';
import { useSheetAsks, useTerms } from '../api/job';
import { figure } from '../parts/figure';
import { sheets } from './sheets';

const Block = styled('dl')({
  display: 'grid',
  gridTemplateColumns: '2.4fr 1.7fr 1.7fr 1.2fr .6fr 1.5fr',
  margin: 0,
  border: '1px solid var(--ink)',
  background: 'var(--sheet)',
  position: 'sticky',
  bottom: 0,
  zIndex: 10,
  '& div': { padding: '3px 9px 4px', borderLeft: '1px solid var(--ink)', minWidth: 0 },
  '& div:first-of-type': { borderLeft: 0 },
  '& dt': { fontSize: '.74em', color: 'var(--ink2)' },
  '& dd': { margin: 0, fontSize: '.92em', overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' },
  '@media print': { position: 'static', breakInside: 'avoid', '& dd': { whiteSpace: 'normal' } },
  '@media (max-width:700px)': {
    position: 'static',
    gridTemplateColumns: '1fr 1fr',
    '& div': { borderLeft: 0, borderTop: '1px solid var(--rule2)' },
    '& dd': { whiteSpace: 'normal' },
  },
});

/** The title block: the same facts in the same corner of every sheet, on screen and on paper. */
export function TitleBlock({ job, sheet }: { job: Of<'JobView'>; sheet: string }) {
  const j = job.view.job;
  const terms = useTerms();
  const asks = useSheetAsks('supply');
  if (!j) return null;
  const { supply } = j;
  const at = sheets.findIndex((s) => s.id === sheet);
  const seal = job.view.frozen ? j.seals.at(-1) : undefined;
  const fuse = supply.mainFuseA.value;
  return (
    <Block aria-label={say('Title block')}>
      <div>
        <dt>{say('Job and site')}</dt>
        <dd title={`${j.title}, ${j.site.address}`}>
          {j.ref} {j.site.address}
          {j.site.town && `, ${j.site.town}`}
        </dd>
      </div>
      <div>
        <dt>{say('Practice and edition')}</dt>
        <dd>
          {terms.data?.practice ?? j.practice} · {j.edition}
        </dd>
      </div>
      <div>
        <dt>{say('Supply')}</dt>
        <dd>
          {terms.data?.earthing.find((e) => e.id === supply.earthing)?.name ?? say('earthing not recorded')}
          {fuse ? ` · ${figure(fuse, 'A')}` : ''}
          {!asks('zeOhm')
            ? ''
            : supply.zeOhm.value === null
              ? say(' · Ze not known')
              : supply.zeOhm.basis === 'measured'
                ? ''
                : say(' · Ze not measured')}
        </dd>
      </div>
      <div>
        <dt>{say('Sheet')}</dt>
        <dd>
          {say(sheets[at]?.name ?? '')} {say('· {{at}} of {{sheets}}', { at: at + 1, sheets: sheets.length })}
        </dd>
      </div>
      <div>
        <dt>{say('Revision')}</dt>
        <dd>{job.view.revision}</dd>
      </div>
      <div>
        <dt>{say('Signed by')}</dt>
        <dd>{seal ? seal.by : say('not yet')}</dd>
      </div>
    </Block>
  );
}
