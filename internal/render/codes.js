/* Runs tracking codes: those that need not ask at once, the others once the visitor agrees. What
   was chosen is kept in this browser, until the codes are others. */
if (!navigator.globalPrivacyControl) {
  const { key, codes } = JSON.parse(document.querySelector('[data-codes]').textContent)
  const ask = document.querySelector('.ask')
  const again = document.querySelector('.asked')
  const places = {
    head: (node) => document.head.append(node),
    begin: (node) => document.body.prepend(node),
    end: (node) => document.body.append(node),
  }
  const run = (asking) => {
    for (const code of codes.filter((each) => each.asks === asking)) {
      for (const { kind, src, text, attributes } of code.elements) {
        const made = document.createElement(kind)
        if (kind === 'script') made.async = false
        for (const [name, value] of attributes || []) made.setAttribute(name, value)
        if (kind === 'img') made.alt = ''
        if (src) made.src = src
        if (text) made.text = text
        places[code.where](made)
      }
    }
  }
  let chosen
  try {
    chosen = localStorage.getItem(key)
  } catch {}
  const choose = (what) => {
    ask.hidden = true
    again.hidden = false
    if (what === 'yes' && chosen !== 'yes') run(true)
    chosen = what
    try {
      localStorage.setItem(key, what)
    } catch {}
  }
  run(false)
  if (ask) {
    if (chosen === 'yes') run(true)
    ask.hidden = !!chosen
    again.hidden = !chosen
    for (const button of ask.querySelectorAll('button')) button.onclick = () => choose(button.value)
    again.querySelector('button').onclick = () => {
      again.hidden = true
      ask.hidden = false
      ask.querySelector('button').focus()
    }
  }
}
