export { previewOf, type Preview } from './preview';
export { alignPreviews, applyPose, IDENTITY, type Alignment, type Pose } from './align';
export { carryRect, judgeView, MOST_ROTATION_DEGREES, MOST_SHIFT, type ViewState } from './carry';
export {
  apartPx,
  applyHomography,
  composeHomographies,
  invertHomography,
  NO_MOVE,
  similarity,
  type Homography,
} from './homography';
export { BLOCKS_ACROSS, BLOCKS_DOWN, layOn, prepareLay, type Laid, type LayResult, type LayView } from './lay';
