"""The way back, from pixel to fish: marks are detected, followed, sized and named from the picture and the rod alone,
never from the truth; and the call sheet reads what a person describes.
"""
