import { type Proof, proofSchema } from '#core/proof'
import seen from './proofs.json'

/** How rehearsals of the demo went, as they were seen: its spots were rehearsed on its pretend sites, and the page of links, which is no site. */
export const proofs: Proof[] = proofSchema.array().parse(seen)
