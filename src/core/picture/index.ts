export {
  bytesIn,
  HEAVY_PICTURE_BYTES,
  MAX_PICTURE_BYTES,
  type Picture,
  pictureSchema,
  pictureTypes,
  type PictureUse,
  pictureUseSchema,
} from './picture'
