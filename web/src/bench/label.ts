const units: Record<string, string> = {
  mm2: 'mm²',
  mm: 'mm',
  m2: 'm²',
  km: 'km',
  kv: 'kV',
  ka: 'kA',
  ma: 'mA',
  mohm: 'MΩ',
  pc: '%',
  ohm: 'Ω',
  kw: 'kW',
  w: 'W',
  a: 'A',
  v: 'V',
  m: 'm',
  s: 's',
  c: '°C',
  ft: 'ft',
  in: 'in',
  lb: 'lb',
  in2: 'in²',
  in3: 'in³',
  yd3: 'yd³',
  ft2: 'ft²',
  va: 'VA',
  kva: 'kVA',
  ml: 'ml',
  uh: 'µH',
  percent: '%',
  deg: '°',
  cmil: 'cmil',
};

/** A key of a calculation as a label and its unit: zs_max_ohm is “Zs max” in Ω. */
export function labelOf(key: string): { text: string; unit: string } {
  const at = key.lastIndexOf('_');
  const unit = at > 0 ? (units[key.slice(at + 1)] ?? '') : '';
  const text = (unit ? key.slice(0, at) : key).replaceAll('_', ' ').replaceAll('-', ' ');
  return { text: text.charAt(0).toUpperCase() + text.slice(1), unit };
}

/** A name of a calculation or one of its words, to be read. */
export const words = (key: string) => key.replaceAll('_', ' ').replaceAll('-', ' ');
