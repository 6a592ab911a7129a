import { vi } from 'vitest'

// Runs before each file of tests. They share one window, since making one for each takes
// four times as long as the tests; what one left in it is gone for the next.
vi.resetModules()
vi.unstubAllGlobals()
localStorage.clear()
document.body.replaceChildren()
