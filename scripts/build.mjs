import { build, installDependencies } from './ready.mjs'

installDependencies()
build()
