"""Several units in one shelter: who sits where with which settings, so that they do not blind each other.

`party` is who sits there with what; `choices` what each could be set to and what that costs; `heard` how much of one's
screen another lights; `seating` the exact search over all of it together; `plan` the answer, before and after.
"""
