// Asks at once, while the scripts are still on their way, for what a page that opens on a job
// needs first. src/api/early.ts takes it from here; what fails is asked for again there.
(() => {
  const at = /^\/jobs\/([0-9a-f-]{36})\/([a-z-]+)/.exec(location.pathname);
  if (!at) return;
  const [, job, sheet] = at;
  const get = (path) =>
    fetch(path).then(
      (answer) => (answer.ok ? answer.json() : undefined),
      () => undefined,
    );
  window.arveltEarly = {
    job,
    until: Date.now() + 20000,
    me: get('/api/session'),
    jobAnswer: get(`/api/jobs/${job}`),
    terms: get(`/api/terms?job=${job}`),
    circuits: ['circuits', 'board', 'supply'].includes(sheet) ? get(`/api/jobs/${job}/circuits`) : undefined,
    supply: sheet === 'supply' ? get(`/api/jobs/${job}/supply`) : undefined,
  };
})();
