"""What became the apps imports, links, service and webhooks: kept for its migrations."""
