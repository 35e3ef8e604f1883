-- Pictures are looked at anew: what each looks like is kept from now on.
UPDATE `picture` SET `print` = NULL WHERE `trouble` IS NULL;--> statement-breakpoint
ALTER TABLE `picture` MODIFY COLUMN `print` char(14);--> statement-breakpoint
ALTER TABLE `picture` ADD `look` varbinary(768);--> statement-breakpoint
ALTER TABLE `picture` ADD `same` varchar(700);--> statement-breakpoint
CREATE INDEX `picture_print` ON `picture` (`print`);--> statement-breakpoint
CREATE INDEX `picture_same` ON `picture` (`same`);