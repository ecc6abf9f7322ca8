"""Drawings of proofs: rings of beats, a case's give, offsets, hands where they meet, light that fades."""
