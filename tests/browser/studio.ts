/** Everything a browser test works with. */
export { expect, test } from './support/fixtures';
export { addNode, card, drag, port, setColour, strands, tidy, untilStill } from './support/board';
export {
  isSave,
  keepOnFerry,
  newMaterial,
  openStored,
  saved,
  storeModel,
  unique,
} from './support/materials';
export { openStart, signIn, signInByHand, untilAwake } from './support/people';
export type { Person } from './support/people';
export { difference, stagePicture, untilIdle } from './support/stage';
export { ownOrigin, ownSparePort, password } from './support/studios';
