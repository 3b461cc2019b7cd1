"""What the glass does: powers, ladder, limits and the sums behind them."""
