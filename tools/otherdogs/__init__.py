"""Dogs of another hand: a second way of building heads and a second way of painting them.

They share no shape, hair or light with `simdogs`, and nothing is trained on them: what holds on these as well is not
one renderer's habit. A few thresholds are chosen by them (docs/photos.md), so they are no judge of those.
"""
