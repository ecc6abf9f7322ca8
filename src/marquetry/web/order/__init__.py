"""Order: what to buy where, orders on their way, money, quotes, series, stock taking."""
