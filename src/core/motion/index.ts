export { averagedShutter, type LightFrame, type Move } from './average';
export { BANDS, motionBetween, pyramidOfFrame, type FrameMotion, type GrayFrame } from './flow';
export { longestRun, motionOf, pathOf, type ClipMotion, type MotionStep } from './motion';
export { LEAST_GROUPS, openShare, type SmearFrame } from './smear';
