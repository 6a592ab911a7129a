import { onScopeDispose, ref } from 'vue'

// The time as the server has it: this device's clock may be off, or be set while a
// timer runs.
const offset = ref(0)

/** Takes over what the server's clock said just now. */
export function setClock(now: string | undefined) {
  if (now) offset.value = new Date(now).getTime() - Date.now()
}

const now = ref(Date.now())
let users = 0
let ticking: ReturnType<typeof setInterval> | undefined

/** The time in milliseconds, a second at a time, while a part is on screen. */
export function useClock() {
  const tick = () => (now.value = Date.now() + offset.value)
  tick()
  if (users++ === 0) ticking = setInterval(tick, 1000)
  onScopeDispose(() => {
    if (--users === 0) clearInterval(ticking)
  })
  return now
}

/** Seconds as a clock shows them: 4:05, 1:02:03. */
export function clock(seconds: number): string {
  const s = Math.max(0, Math.round(seconds))
  const two = (n: number) => String(n).padStart(2, '0')
  const h = Math.floor(s / 3600)
  const rest = `${h ? two(Math.floor(s / 60) % 60) : Math.floor(s / 60)}:${two(s % 60)}`
  return h ? `${h}:${rest}` : rest
}
