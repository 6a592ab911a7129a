import { expect, test } from 'vitest'

import { browserName } from './browsers'

// as browsers call themselves, from memory
test.each([
  ['Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0', 'Firefox on Linux'],
  [
    'Mozilla/5.0 (Linux; Android 15) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0 Mobile Safari/537.36',
    'Chromium on Android',
  ],
  [
    'Mozilla/5.0 (iPhone; CPU iPhone OS 18_0 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/18.0 Mobile/15E148 Safari/604.1',
    'Safari on iOS',
  ],
  ['curl/8.1', 'curl'],
  ['', 'A browser'],
])('%s is called %s', (agent, name) => expect(browserName(agent)).toBe(name))
