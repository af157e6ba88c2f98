import { enhance } from './enhance'

/*
 * The visitors' script, served at /askbox.js. It makes plain code better where it finds it and is not needed
 * for anything: without it every form is a plain form. No cookie, no storage, no request before somebody sends.
 */
for (const settings of document.querySelectorAll('form.askbox > script.askbox-settings')) {
  try {
    enhance(settings.parentElement as HTMLFormElement, JSON.parse(settings.textContent ?? ''))
  } catch {
    // A form whose settings were changed on the page stays the plain form that it is.
  }
}
