"""What keeps the repository in order besides the program: screenshots."""
