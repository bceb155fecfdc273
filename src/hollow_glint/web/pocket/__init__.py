"""The pocket sheet: made for a phone, and its notes taken in again."""
