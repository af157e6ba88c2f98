export { readVideo, type Video, videoHost, videoSchema } from './video'
