/* Copies a code, and tells that it was copied (Clipboard API, Beacon, W3C). Without it the code is
   there to be marked. */
for (const button of document.querySelectorAll('[data-copy]')) {
  button.hidden = false
  button.onclick = async () => {
    await navigator.clipboard.writeText(button.dataset.copy)
    button.textContent = button.dataset.done
    if (button.dataset.told) navigator.sendBeacon(button.dataset.told)
  }
}
