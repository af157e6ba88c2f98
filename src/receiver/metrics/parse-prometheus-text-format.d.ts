declare module 'parse-prometheus-text-format' {
  export default function parsePrometheus(text: string): unknown[]
}
