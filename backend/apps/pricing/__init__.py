"""Pricing: the price list, tax codes, lists of prices that customers belong to, and what each of them pays."""
