import { styled } from '@mui/material/styles';
import { Button } from '@mui/material';
import { useRef, type PointerEvent } from 'react';
import { Row } from '../../parts/layout';
import { say } from '../../words/words';

// What is drawn is kept as strokes on a field of a thousand by four hundred, whatever the screen.
const wide = 1000;
const high = 400;

const Field = styled('svg')({
  width: '100%',
  maxWidth: 520,
  aspectRatio: `${wide} / ${high}`,
  border: '1px solid var(--ink)',
  background: 'var(--sheet)',
  touchAction: 'none',
  cursor: 'crosshair',
  display: 'block',
  '& path': { fill: 'none', stroke: 'var(--ink)', strokeWidth: 5, strokeLinecap: 'round', strokeLinejoin: 'round' },
});

/** How many characters of strokes a record holds; more are not drawn. */
const most = 19_000;

/** Where somebody signs with a finger, a pen or the mouse. */
export function SignaturePad({ value, onChange, by }: { value: string; onChange: (path: string) => void; by: string }) {
  const field = useRef<SVGSVGElement>(null);
  const drawing = useRef('');
  const at = (e: PointerEvent) => {
    const box = field.current?.getBoundingClientRect();
    if (!box) return '';
    const within = (v: number, to: number) => Math.round(Math.min(Math.max(v, 0), 1) * to);
    return `${within((e.clientX - box.left) / box.width, wide)} ${within((e.clientY - box.top) / box.height, high)}`;
  };
  const draw = (step: string) => {
    if (drawing.current.length + step.length > most) return;
    drawing.current += step;
    onChange(drawing.current);
  };
  return (
    <>
      <Field
        ref={field}
        viewBox={`0 0 ${wide} ${high}`}
        role="img"
        aria-label={value ? say('Signature of {{by}}', { by }) : say('Sign here')}
        data-signature
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          drawing.current = value;
          draw(`M${at(e)}`);
        }}
        onPointerMove={(e) => e.buttons > 0 && drawing.current && draw(`L${at(e)}`)}
        onPointerUp={() => (drawing.current = '')}
      >
        <path d={value} />
      </Field>
      <Row above="xs">
        <Button disabled={!value} onClick={() => onChange('')}>
          {say('Clear the signature')}
        </Button>
      </Row>
    </>
  );
}
