"""The hole card: what is known of a hole, the settings for it with the numbers behind them, remedies where no gain will
do, what to change from hole to hole, and what to check before fishing.
"""
