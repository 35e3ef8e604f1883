ALTER TABLE `run` ADD `alarms` json;--> statement-breakpoint
ALTER TABLE `source` ADD `import_limits` json;