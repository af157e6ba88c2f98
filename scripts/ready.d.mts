export const root: string
export function installDependencies(): void
export function build(): void
export function findChromium(): string
