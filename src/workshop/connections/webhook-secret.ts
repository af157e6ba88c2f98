/** Of a secret of Standard Webhooks: 24 to 64 bytes. */
const SECRET_BYTES = 32

/** A new secret to sign with, as Standard Webhooks writes it. */
export const newWebhookSecret = (): string =>
  `whsec_${btoa(String.fromCharCode(...crypto.getRandomValues(new Uint8Array(SECRET_BYTES))))}`
