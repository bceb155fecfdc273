"""The crew board: who may come in over the local network, what a member sees and sends, what stays the host's alone."""
