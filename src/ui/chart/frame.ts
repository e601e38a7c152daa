/** Where prices and candles lie in pixels, published by the chart for the layer above it. */
export interface Frame {
  x(index: number): number;
  y(price: number): number;
  priceAt(y: number): number;
  plot: { x: number; y: number; width: number; height: number };
  step: number;
}
