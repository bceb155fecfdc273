"""The ground: a lake from above, in metres about an anchor. What soundings say of the depth anywhere, how sure that is,
and where one more would teach most. Nothing here knows of holes, units or fish.
"""
