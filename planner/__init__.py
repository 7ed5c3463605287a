"""What builders do, page by page; each package under its page's slug."""
