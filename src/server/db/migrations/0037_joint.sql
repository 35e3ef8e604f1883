ALTER TABLE `catalog_edit` ADD `joint` char(36);--> statement-breakpoint
ALTER TABLE `draft_step` ADD `joint` char(36);--> statement-breakpoint
CREATE INDEX `draft_step_joint` ON `draft_step` (`joint`);