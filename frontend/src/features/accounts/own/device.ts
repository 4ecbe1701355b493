// What a browser calls itself, as people would say it.

const SYSTEMS: [RegExp, string][] = [
  [/iPhone/, 'iPhone'],
  [/iPad/, 'iPad'],
  [/Android/, 'Android'],
  [/Windows/, 'Windows'],
  [/Mac OS X|Macintosh/, 'Mac'],
  [/Linux/, 'Linux'],
];
const BROWSERS: [RegExp, string][] = [
  [/Edg\//, 'Edge'],
  [/Firefox\//, 'Firefox'],
  [/Chrome\/|Chromium\//, 'Chrome'],
  [/Safari\//, 'Safari'],
];

const first = (text: string, names: [RegExp, string][]) => names.find(([sign]) => sign.test(text))?.[1];

/** "Firefox on Windows"; a program of another kind is called what it calls itself. */
export function deviceOf(agent: string): string {
  const [browser, system] = [first(agent, BROWSERS), first(agent, SYSTEMS)];
  if (browser && system) return `${browser} on ${system}`;
  return system ?? browser ?? (agent.slice(0, 40) || 'unknown device');
}
