export {
  bytesIn,
  dataAddress,
  factsOf,
  HEAVY_PICTURE_BYTES,
  MAX_PICTURE_BYTES,
  type Picture,
  type PictureFacts,
  pictureFactsSchema,
  pictureSchema,
  pictureTypes,
  type PictureUse,
  pictureUseSchema,
} from './picture'
