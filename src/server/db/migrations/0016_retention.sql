ALTER TABLE `batch` ADD `file_dropped` boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `workspace` ADD `retention` json;