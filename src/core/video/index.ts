export { madeVideo, noVideo, type Video, type VideoReading, videoHost, videoSchema } from './video'
