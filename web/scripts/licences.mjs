// Writes public/licenses/scripts.txt: the licence text of every package that the built interface
// may contain, by the lock file. One that states no licence stops it.
//
//   node scripts/licences.mjs
import fs from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const web = path.join(path.dirname(fileURLToPath(import.meta.url)), '..');
const lock = JSON.parse(fs.readFileSync(path.join(web, 'package-lock.json'), 'utf8'));
// What the service worker is written of, though the packages are those of the build.
const worker = ['workbox-core', 'workbox-precaching', 'workbox-routing', 'workbox-strategies'].map((name) => `node_modules/${name}`);
const out = ['Licence texts of the scripts that the built interface contains.', ''];
for (const [at, p] of Object.entries(lock.packages).sort(([a], [b]) => a.localeCompare(b, 'en'))) {
  if (!at || ((p.dev || p.optional || p.devOptional) && !worker.includes(at))) continue;
  const dir = path.join(web, at);
  const about = JSON.parse(fs.readFileSync(path.join(dir, 'package.json'), 'utf8'));
  const file = fs.readdirSync(dir).find((f) => /^licen[cs]e(\.(md|txt))?$/i.test(f));
  const text = file
    ? fs.readFileSync(path.join(dir, file), 'utf8').trim()
    : `${about.author?.name ?? about.author ?? ''}\n${about.license} licence; the package carries no text of its own.`.trim();
  if (!about.license) throw new Error(`${about.name} states no licence`);
  out.push('', `=== ${about.name} ${about.version} (${about.license}) ===`, '', text, '');
}
fs.writeFileSync(path.join(web, 'public/licenses/scripts.txt'), out.join('\n'));
