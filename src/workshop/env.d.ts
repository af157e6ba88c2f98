/// <reference types="vite/client" />

/** Pages of the help, made components when the workshop is built. */
declare module '*.md' {
  import type { Component } from 'vue'

  const text: Component
  export default text
}
