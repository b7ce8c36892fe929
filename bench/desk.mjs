// The technician's view on a slow phone: how soon it is usable, and how soon a tap is answered.
// Usage: node bench/desk.mjs ADDRESS ACCOUNT SWAP; the CPU is slowed four times by the browser itself.
import { createRequire } from 'node:module'
import { fileURLToPath } from 'node:url'

const require = createRequire(fileURLToPath(new URL('../console/package.json', import.meta.url)))
const { chromium } = require('playwright-core')
const [address, account, ...swaps] = process.argv.slice(2)
const slower = 4
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
})
const middle = (all) => [...all].sort((a, b) => a - b)[Math.floor(all.length / 2)]
const within = (all) => [...all].sort((a, b) => a - b)[Math.min(all.length - 1, Math.floor(all.length * 0.95))]

const signedIn = await browser.newContext()
const first = await signedIn.newPage()
await first.goto(address)
await first.getByLabel('Name').fill(account)
await first.locator('input[type=password]').fill(process.env.YARD_PASSWORD ?? '')
await first.keyboard.press('Enter')
await first.getByRole('navigation').first().waitFor()
const state = await signedIn.storageState()
await signedIn.close()

const open = async () => {
  // Nothing of an earlier visit: no cache, no service worker.
  const context = await browser.newContext({ storageState: state, viewport: { width: 390, height: 844 }, serviceWorkers: 'block' })
  const page = await context.newPage()
  const devtools = await context.newCDPSession(page)
  await devtools.send('Emulation.setCPUThrottlingRate', { rate: slower })
  return { context, page }
}

// The page says itself when it is usable: whoever looks into it from outside meanwhile slows it down.
const watch = () => {
  const look = () => {
    const link = [...document.querySelectorAll('main a, main button')].find((a) => /Work its checklist|See why it stopped/.test(a.textContent))
    if (!link) return false
    requestAnimationFrame(() => setTimeout(() => console.log(`usable ${performance.now()}`)))
    return true
  }
  const observer = new MutationObserver(() => look() && observer.disconnect())
  observer.observe(document, { childList: true, subtree: true })
}

const loads = []
for (let i = 0; i < 7; i++) {
  const { context, page } = await open()
  await page.addInitScript(watch)
  const said = page.waitForEvent('console', { predicate: (m) => m.text().startsWith('usable '), timeout: 30_000 })
  await page.goto(`${address}/round`, { waitUntil: 'commit' })
  loads.push(Number((await said).text().split(' ')[1]))
  await context.close()
}

const taps = []
for (const swap of swaps) {
  const { context, page } = await open()
  await page.goto(`${address}/swaps/${swap}`)
  await page.getByRole('heading', { name: 'Checklist' }).waitFor()
  await page.waitForTimeout(1500)
  taps.push(
    ...(await page.evaluate(async () => {
      const times = []
      const keys = [...document.querySelectorAll('.step-open [data-step]')].filter((b) => b.getAttribute('aria-disabled') !== 'true' && /ask the person/.test(b.textContent) | !b.querySelector('.step-by')?.textContent).map((b) => b.dataset.step).slice(0, 6)
      for (const key of keys) {
        const button = () => document.querySelector(`[data-step="${key}"]`)
        const start = performance.now()
        button().click()
        // Answered is when the row looks otherwise, on the screen.
        while (button().closest('li').classList.contains('step-open') && performance.now() - start < 5000) await new Promise(requestAnimationFrame)
        await new Promise(requestAnimationFrame)
        times.push(performance.now() - start)
        await new Promise((done) => setTimeout(done, 700))
      }
      return times
    })),
  )
  await context.close()
}
await browser.close()
const ms = (value) => `${Math.round(value)} ms`
console.log(`round usable: ${ms(middle(loads))}, at most ${ms(Math.max(...loads))} (2,000 ms wanted), nothing kept from before, CPU slowed ${slower} times`)
console.log(`a tap answered: ${ms(middle(taps))}, 95 of 100 ${ms(within(taps))} (100 ms wanted), ${taps.length} taps`)
