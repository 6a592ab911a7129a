// Names of browsers and systems in what a browser calls itself, the more special in front:
// all of them claim to be the ones before as well.
const browsers: [RegExp, string][] = [
  [/Edg\//, 'Edge'],
  [/OPR\//, 'Opera'],
  [/Firefox\//, 'Firefox'],
  [/Chrom(e|ium)\//, 'Chromium'],
  [/Safari\//, 'Safari'],
]
const systems: [RegExp, string][] = [
  [/Android/, 'Android'],
  [/iPhone|iPad/, 'iOS'],
  [/Windows/, 'Windows'],
  [/Mac OS X/, 'macOS'],
  [/Linux/, 'Linux'],
]

function firstOf(names: [RegExp, string][], agent: string): string | undefined {
  return names.find(([pattern]) => pattern.test(agent))?.[1]
}

/** What a person would call the browser that calls itself so: “Firefox on Linux”. */
export function browserName(agent: string): string {
  const browser = firstOf(browsers, agent)
  const system = firstOf(systems, agent)
  if (!browser) return agent.split(/[\s/]/)[0] || 'A browser'
  return system ? `${browser} on ${system}` : browser
}
