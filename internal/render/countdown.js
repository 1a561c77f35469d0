/* Ticks a countdown in words of the browser's own (ECMA-402). Without it the page says what was left
   when it was drawn. */
for (const left of document.querySelectorAll('[data-until]')) {
  const say = (n, unit) =>
    new Intl.NumberFormat(document.documentElement.lang, { style: 'unit', unit, unitDisplay: 'long' }).format(n)
  const tick = () => {
    const s = Math.ceil((left.dataset.until - Date.now()) / 1000)
    if (s <= 0) {
      clearInterval(timer)
      left.textContent = left.dataset.after
      return
    }
    const parts = [[s / 86400, 'day'], [(s / 3600) % 24, 'hour'], [(s / 60) % 60, 'minute'], [s % 60, 'second']]
    const from = parts.findIndex(([n]) => n >= 1)
    left.textContent = parts.slice(from, from ? 4 : 3).map(([n, unit]) => say(Math.floor(n), unit)).join(' ')
  }
  const timer = setInterval(tick, 1000)
  tick()
}
