export { previewOf, type Preview } from './preview';
export { alignPreviews, applyPose, IDENTITY, type Alignment, type Pose } from './align';
export { carryRect, judgeView, type ViewState } from './carry';
