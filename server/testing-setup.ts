import { makeImage } from "./testing";

/** Before any test that wants the small company. */
export default makeImage;
