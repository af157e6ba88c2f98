import { build, installDependencies } from './ready.mjs'

installDependencies()
await build()
