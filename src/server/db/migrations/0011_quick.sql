ALTER TABLE `batch` ADD `quick` boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `submission_entry` ADD `quick` boolean DEFAULT false NOT NULL;