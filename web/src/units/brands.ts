/**
 * Numbers and points that must not be taken for one another. The brand is only in the type, and a plain literal fits
 * either: what is caught is one kind handed on where the other is wanted (degrees as millimeters, a place on the screen
 * as one in the chassis).
 */

export type Mm = number & { readonly unit?: "mm" };
export type Deg = number & { readonly unit?: "deg" };
export type Px = number & { readonly unit?: "px" };

/** Ahead, left, up, mm, in the chassis frame: fixed points, and points of the axle as they stand at ride. */
export type ChassisPoint = [number, number, number] & { readonly frame?: "chassis" };
/** Across and down in a view's cell, px. */
export type ScreenPoint = readonly [number, number] & { readonly frame?: "screen" };
